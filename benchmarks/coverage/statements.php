<?php

declare(strict_types=1);

/**
 * How often something is said that is not so, where the truth is known: relations, outliers, keys, strong columns (make coverage, second part).
 */
require __DIR__.'/../../vendor/autoload.php';
require __DIR__.'/Report.php';

use Dokimos\Benchmarks\Report;
use Dokimos\Core\Findings\Finder;
use Dokimos\Core\Findings\Finding;
use Dokimos\Core\Findings\Outcome\ClassOutcome;
use Dokimos\Core\Findings\Outcome\NumberOutcome;
use Dokimos\Core\Findings\Outcome\Outcome;
use Dokimos\Core\Findings\Severity;
use Dokimos\Core\Findings\Subject;
use Dokimos\Core\Findings\TargetRelation;
use Dokimos\Core\Findings\TargetRelations;
use Dokimos\Core\Findings\Thresholds;
use Dokimos\Core\Picture\MissingPattern;
use Dokimos\Core\Picture\Together;
use Dokimos\Core\Prepare\KeepStrong;
use Dokimos\Core\Prepare\Lesson;
use Dokimos\Core\Prepare\Settings;
use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Table;

$runs = (int) ($argv[1] ?? 200);
$r = new Report('statements');
$codes = static fn (int $n, float $uneven, int $levels): CodedColumn => CodedColumn::fromCells(array_map(static fn (): string => 'v'.(int) floor($levels * $r->share() ** $uneven), range(1, $n)));
$event = static fn (int $n, float $rate): array => array_map(static fn (): float => $r->share() < $rate ? 1.0 : 0.0, range(1, $n));
$numbers = static fn (int $n, Closure $draw): NumberColumn => new NumberColumn(array_map(static fn (): float => (float) $draw(), range(1, $n)));

$false = ['goes with the target, uneven categories' => 0, 'goes with the target, rare event' => 0, 'goes with the target, lopsided numbers' => 0, 'goes with the target, a number' => 0, 'goes with the target, classes' => 0, 'clear of chance, all kinds' => 0, 'missing more often where' => 0];
for ($run = 0; $run < $runs; ++$run) {
    $n = 1200;
    $table = Table::of(array_merge(...array_map(static fn (int $i): array => ['c'.$i => $codes($n, 4.0, 40)], range(1, 12))));
    foreach (['uneven categories' => 0.17, 'rare event' => 0.02] as $what => $rate) {
        $false['goes with the target, '.$what] += [] === array_filter(TargetRelations::of(new Subject($table, [], [], 't', 'yes', $event($n, $rate))), static fn (TargetRelation $t): bool => ($t->adjusted ?? 1.0) < 0.05) ? 0 : 1;
    }
    $lopsided = Table::of(array_merge(...array_map(static fn (int $i): array => ['n'.$i => $numbers($n, static fn () => $r->share() < 0.04 ? -100 * log($r->share()) : 0.0)], range(1, 12))));
    $false['goes with the target, lopsided numbers'] += [] === array_filter(TargetRelations::of(new Subject($lopsided, [], [], 't', 'yes', $event($n, 0.05))), static fn (TargetRelation $t): bool => ($t->adjusted ?? 1.0) < 0.05) ? 0 : 1;
    $speaks = static fn (Table $t, Outcome $outcome): int => [] === array_filter(TargetRelations::of(new Subject($t, [], [], 't', asked: $outcome)), static fn (TargetRelation $t): bool => ($t->adjusted ?? 1.0) < 0.05) ? 0 : 1;
    $both = Table::of($table->columns() + $lopsided->columns());
    $false['goes with the target, a number'] += $speaks($both, new NumberOutcome(array_map(static fn (): float => $r->share() < 0.7 ? 0.0 : exp(1.5 * $r->normal()), range(1, $n))));
    $false['goes with the target, classes'] += $speaks($both, new ClassOutcome(array_map(static fn (): float => floor(5 * $r->share() ** 3), range(1, $n)), ['a', 'b', 'c', 'd', 'e']));
    $mixed = Table::of(['a' => $codes($n, 4.0, 30), 'b' => $codes($n, 3.0, 20), 'c' => $numbers($n, static fn () => exp(2.5 * $r->normal())), 'd' => $numbers($n, static fn () => exp(2.5 * $r->normal())), 'e' => $numbers($n, static fn () => $r->share() < 0.04 ? -100 * log($r->share()) : 0.0), 'f' => $numbers($n, static fn () => $r->share() < 0.03 ? -100 * log($r->share()) : 0.0), 'g' => $codes($n, 6.0, 40)]);
    $false['clear of chance, all kinds'] += min([1.0, ...array_map(static fn ($pair): float => $pair->adjusted, Together::of($mixed)->pairs)]) < 0.05 ? 1 : 0;
    $gaps = static fn (): NumberColumn => $numbers($n, static fn () => $r->share() < 0.02 ? \NAN : $r->normal());
    $false['missing more often where'] += [] === MissingPattern::of(Table::of(['x' => $gaps(), 'y' => $gaps(), 'z' => $gaps(), 'a' => $codes($n, 5.0, 12), 'b' => $codes($n, 3.0, 12), 'c' => $codes($n, 6.0, 12)]))->where ? 0 : 1;
}
foreach ($false as $what => $count) {
    $r->line('false under the null: '.$what, $count / $runs, 0.0, 0.07);
}

$kept = $all = 0;
for ($run = 0; $run < max(5, intdiv($runs, 10)); ++$run) {
    $n = 2000;
    $table = Table::of(array_merge(...array_map(static fn (int $i): array => ['c'.$i => $codes($n, 1.0, 60)], range(1, 25))));
    $out = KeepStrong::fromSettings(new Settings([]))->fit(new Lesson($table, range(0, $n - 1), $event($n, 0.17)));
    $all += 25;
    $kept += 25 - count($out->toArray()['columns'] ?? []);
}
$r->line('keep by strength: noise of 60 values kept', $kept / $all, 0.0, 0.10);

foreach (['normal' => [static fn () => 50 + 10 * $r->normal(), 0.05], 'Poisson' => [static fn () => $r->poisson(8.0), 0.05], 'Student t, 5 degrees' => [static fn () => $r->student5(), 0.15]] as $what => [$draw, $most]) {
    $named = 0;
    for ($run = 0; $run < 2 * $runs; ++$run) {
        $found = (new Finder(Thresholds::standard()))->of(new Subject(Table::of(['x' => $numbers(1000, $draw)])));
        $named += [] === array_filter($found, static fn (Finding $f): bool => 'outliers' === $f->sort) ? 0 : 1;
    }
    $r->line('outliers named in a clean column: '.$what, $named / (2 * $runs), 0.0, $most);
}

$high = $keys = 0;
for ($run = 0; $run < $runs; ++$run) {
    $n = 1500;
    $x = $others = $y = $place = $count = [];
    for ($i = 0; $i < $n; ++$i) {
        $x[] = $v = $r->normal();
        $others[] = $r->normal();
        $y[] = $r->share() < 1 / (1 + exp(1.5 - 2.4 * $v)) ? 1.0 : 0.0;
        $place[] = 'p'.$r->whole(0, 299);
        $count[] = (float) $r->whole(0, 400);
    }
    $found = (new Finder(Thresholds::standard()))->of(new Subject(Table::of(['strong' => new NumberColumn($x), 'other' => new NumberColumn($others), 'place' => CodedColumn::fromCells($place), 'count' => new NumberColumn($count)]), [], [], 't', 'yes', $y));
    $high += [] === array_filter($found, static fn (Finding $f): bool => 'leak suspicion' === $f->sort && Severity::High === $f->severity) ? 0 : 1;
    $keys += [] === array_filter($found, static fn (Finding $f): bool => 'repeated keys' === $f->sort && ['count'] === $f->columns) ? 0 : 1;
}
$r->line('an honest strong column is a grave suspicion', $high / $runs, 0.0, 0.02);
$r->line('a clean column that repeats is called a key', $keys / $runs, 0.0, 0.02);
$r->end();
