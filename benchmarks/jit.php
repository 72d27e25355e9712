<?php

declare(strict_types=1);

/**
 * The same fits again and again in one long-lived process, each answer as a hash: what is compiled while it runs has to give the bytes of what
 * is not. `php benchmarks/jit.php` compares a compiled process with a plain one (make jit); `--print` prints the hashes of this process.
 * Options: how many rounds (default 20).
 */
require __DIR__.'/../vendor/autoload.php';

use App\Operation\Compiled;
use Dokimos\Core\Learners\Learners;
use Dokimos\Core\Math\Distribution\ChiSquare;
use Dokimos\Core\Math\Distribution\FisherF;
use Dokimos\Core\Math\Distribution\StudentT;
use Dokimos\Core\Math\Special;
use Dokimos\Core\Prepare\Preparation;
use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Table;
use Dokimos\Core\Task\Task;
use Dokimos\Core\Validate\Trying;
use Symfony\Component\Process\Process;

$rounds = (int) (array_values(array_filter($argv, is_numeric(...)))[0] ?? 20);
if (!in_array('--print', $argv, true)) {
    $run = static function (array $flags) use ($rounds): array {
        $process = new Process([\PHP_BINARY, ...$flags, __FILE__, '--print', (string) $rounds], null, null, null, 3600);
        $process->mustRun();

        return array_filter(explode("\n", $process->getOutput()));
    };
    $plain = $run(['-d', 'opcache.enable_cli=0']);
    $compiled = $run(Compiled::options());
    $differ = array_filter($plain, static fn (string $line, int $i): bool => $line !== ($compiled[$i] ?? ''), \ARRAY_FILTER_USE_BOTH);
    printf("%d results of %d rounds, compiled and not: %s\n", count($plain), $rounds, [] === $differ && count($plain) === count($compiled) ? 'the same bytes' : count($differ).' differ');
    foreach (array_slice($differ, 0, 10, true) as $i => $line) {
        printf("  plain    %s\n  compiled %s\n", $line, $compiled[$i] ?? 'nothing');
    }
    exit([] === $differ && count($plain) === count($compiled) ? 0 : 1);
}

$hash = static fn (array $numbers): string => substr(hash('xxh128', pack('e*', ...$numbers)), 0, 16);
for ($round = 0; $round < $rounds; ++$round) {
    mt_srand($round);
    $rows = 220 + 40 * ($round % 5);
    $x = $z = $g = $pull = $weights = [];
    for ($i = 0; $i < $rows; ++$i) {
        $x[] = mt_rand(-300, 300) / 100;
        $z[] = 0 === $i % 17 ? \NAN : mt_rand(0, 90) / 10;
        $g[] = ['red', 'green', 'blue'][mt_rand(0, 2)];
        $weights[] = (float) mt_rand(1, 3);
        $pull[] = sin(2 * $x[$i]) + $x[$i] / 2 + ('red' === $g[$i] ? 0.8 : 0.0) + mt_rand(-100, 100) / 70;
    }
    $table = Table::of(['x' => new NumberColumn($x), 'z' => new NumberColumn($z), 'g' => CodedColumn::fromCells($g)]);
    $outcomes = [
        Task::NUMBER => [$pull, null],
        Task::TWO => [array_map(static fn (float $p): float => (float) ($p > 0.4), $pull), ['no', 'yes']],
        Task::MORE => [array_map(static fn (float $p): float => $p < -0.4 ? 0.0 : ($p < 0.8 ? 1.0 : 2.0), $pull), ['a', 'b', 'c']],
    ];
    $more = ['boosting' => [['trees' => 25], ['trees' => 20, 'rising' => 'x', 'loss' => 'quantile']], 'forest' => [['trees' => 8]], 'logistic' => [[], ['missing' => 'fill and mark', 'selection' => 'stepwise']], 'linear' => [[], ['penalty' => 'lasso', 'find' => true]]];
    foreach (Learners::all() as $learner) {
        foreach ($learner->tasks as $task) {
            foreach ($more[$learner->name] ?? [[]] as $settings) {
                if (isset($settings['loss']) && Task::NUMBER !== $task) {
                    continue;
                }
                [$y, $classes] = $outcomes[$task];
                $trying = new Trying($table, ['x', 'z', 'g'], $y, new Preparation([]), Learners::make($learner->name, $settings), $classes, 0 === $round % 3 ? $weights : null);
                $fold = $trying->fold(array_values(array_filter(array_keys($y), static fn (int $i): bool => 0 === $i % 4)));
                $whole = $trying->whole('t', 'yes');
                printf("%d %s %s %s %s %s\n", $round, $learner->name, $task, json_encode($settings), $hash($fold['answers']->values), substr(hash('xxh128', json_encode($whole->toArray(), \JSON_THROW_ON_ERROR | \JSON_PRESERVE_ZERO_FRACTION)), 0, 16));
            }
        }
    }
    $figures = [];
    for ($i = 0; $i < 400; ++$i) {
        $a = mt_rand(1, 4000) / 100;
        $b = mt_rand(1, 4000) / 100;
        array_push($figures, Special::deviance($a, $b), Special::gammaP($a, $b), Special::gammaQ($a, $b), Special::logGamma($a), (new StudentT($a))->twoSided($b / 10), (new ChiSquare(max(1, (int) $a)))->upper($b), (new FisherF(max(1, (int) $a), max(1, (int) $b)))->upper(mt_rand(1, 500) / 100));
    }
    printf("%d distributions %s\n", $round, $hash($figures));
}
