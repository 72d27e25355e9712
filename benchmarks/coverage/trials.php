<?php

declare(strict_types=1);

/**
 * Trials: how often the interval of a trial's figure holds the procedure's figure on new rows, how often one of twelve equal trials is called
 * worse, whether the leader's luck is told, what a column is worth, how far two trials are apart, intervals of few events and long tails, chances after balancing (make coverage, third part).
 */
require __DIR__.'/../../vendor/autoload.php';
require_once __DIR__.'/figures.php';
require __DIR__.'/Report.php';

use Dokimos\Benchmarks\Report;
use Dokimos\Core\Explain\PermutationImportance;
use Dokimos\Core\Figure\Figures;
use Dokimos\Core\Learn\Balance;
use Dokimos\Core\Learners\Learners;
use Dokimos\Core\Math\Distribution\Normal;
use Dokimos\Core\Measure\BinaryScores;
use Dokimos\Core\Measure\DeLong;
use Dokimos\Core\Measure\Interval;
use Dokimos\Core\Prepare\Preparation;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Table;
use Dokimos\Core\Task\Answers;
use Dokimos\Core\Task\Task;
use Dokimos\Core\Validate\Comparison;
use Dokimos\Core\Validate\FoldAnswers;
use Dokimos\Core\Validate\Luck;
use Dokimos\Core\Validate\Resampled;
use Dokimos\Core\Validate\SplitPlan;
use Dokimos\Core\Validate\Trying;

$runs = (int) ($argv[1] ?? 1000);
$r = new Report('trials');
$auc = Figures::ranking(Task::TWO);

/** @return array{Table, list<float>, ?list<int|float|string|null>} */
$draw = static function (int $n, bool $signal, string $way) use ($r): array {
    $x = [[], [], [], []];
    $y = $labels = $effects = [];
    for ($g = 0; $g < 2000; ++$g) {
        $effects[] = 0.7 * $r->normal();
    }
    for ($i = 0; $i < $n; ++$i) {
        $eta = -1.1;
        foreach ([0.7, -0.5, 0.3, 0.0] as $j => $pull) {
            $x[$j][] = $v = $r->normal();
            $eta += $signal ? $pull * $v : 0.0;
        }
        if (SplitPlan::GROUP === $way) {
            $group = $n <= 400 ? $i % 15 : $i % 2000;
            $eta += $effects[$group];
            $labels[] = 'g'.$group;
        } elseif (SplitPlan::TIME === $way) {
            $labels[] = (float) $i;
        }
        $y[] = $r->share() < 1 / (1 + exp(-$eta)) ? 1.0 : 0.0;
    }

    return [Table::of(array_combine(['a', 'b', 'c', 'd'], array_map(static fn (array $c): NumberColumn => new NumberColumn(array_values($c)), $x))), $y, [] === $labels ? null : $labels];
};
$scenes = [
    ['300 rows with signal', true, SplitPlan::CHANCE, 'logistic', [], $runs],
    ['300 rows without signal', false, SplitPlan::CHANCE, 'logistic', [], $runs],
    ['15 groups of 20', true, SplitPlan::GROUP, 'logistic', [], $runs],
    ['divided by time', true, SplitPlan::TIME, 'logistic', [], $runs],
    ['boosting', true, SplitPlan::CHANCE, 'boosting', ['trees' => 60, 'patience' => 10, 'leaf' => 10], intdiv($runs, 3)],
];
foreach ($scenes as [$name, $signal, $way, $learner, $settings, $times]) {
    [$new, $newY] = $draw(4000, $signal, $way);
    $ends = $true = [];
    for ($run = 0; $run < $times; ++$run) {
        [$table, $y, $labels] = $draw(300, $signal, $way);
        $plan = new SplitPlan(0.0, 5, SplitPlan::TIME === $way ? 1 : 2, $run, $way, SplitPlan::CHANCE === $way ? null : 'c');
        $answers = $parts = $nothing = $ratios = [];
        for ($repeat = 0; $repeat < $plan->repeats; ++$repeat) {
            $answers[$repeat] = array_fill(0, 300, \NAN);
            $parts[$repeat] = $plan->parts($y, range(0, 299), $repeat, $labels);
            foreach ($parts[$repeat] as $fold => $validation) {
                $training = $plan->training($y, range(0, 299), $validation, $labels);
                $model = Learners::make($learner, $settings)->fit(new Task($table, ['a', 'b', 'c', 'd'], $y, $training, null, ['no', 'yes'], $plan->apart($labels)));
                foreach ($model->predict($table, $validation) as $i => $p) {
                    $answers[$repeat][$validation[$i]] = $p;
                }
                $nothing[$repeat][$fold] = [0.25];
                if (0 === $repeat) {
                    $ratios[] = count($validation) / count($training);
                }
                if ($fold < 2 && 0 === $repeat) {
                    $true[] = (float) (new BinaryScores($newY, $model->predict($new)))->auc();
                }
            }
        }
        $folds = new FoldAnswers(Task::TWO, $y, array_values(array_map(static fn (array $own): Answers => new Answers(array_values($own)), $answers)), array_values($parts), array_values(array_map(array_values(...), $nothing)), $ratios, null, null === $labels ? null : count(array_unique($labels)));
        $judged = $folds->judged($auc, DeLong::of($folds->outcomes(), $folds->first()->values)->interval());
        $ends[] = [$judged['interval']->low, $judged['interval']->high];
    }
    $truth = array_sum($true) / count($true);
    $r->line('AUC of a trial, '.$name, count(array_filter($ends, static fn (array $e): bool => $e[0] <= $truth && $truth <= $e[1])) / count($ends), 0.92, 0.98);
}

// Twelve trials that are all as good: the same signal, with noise of their own.
foreach (['on folds' => 5, 'on one part' => 1] as $how => $parts) {
    $called = $lead = $luck = 0.0;
    $times = intdiv($runs, 4);
    for ($run = 0; $run < $times; ++$run) {
        $y = $signal = [];
        for ($i = 0; $i < 400; ++$i) {
            $y[] = $r->share() < 0.3 ? 1.0 : 0.0;
            $signal[] = 0.8 * $y[$i] + $r->normal();
        }
        $rows = array_fill(0, $parts, []);
        for ($i = 0; $i < 400; ++$i) {
            $rows[$i % $parts][] = $i;
        }
        $of = static fn (array $s): FoldAnswers => new FoldAnswers(Task::TWO, $y, [new Answers(array_values($s))], [$rows], [array_fill(0, $parts, [0.3])], array_fill(0, $parts, 0.25));
        $scores = $trials = $values = [];
        for ($t = 0; $t < 12; ++$t) {
            $scores[] = $s = array_map(static fn (float $v): float => $v + 0.7 * $r->normal(), $signal);
            $trials[] = $of($s);
            $each = array_filter($trials[$t]->each($auc), static fn (?float $v): bool => null !== $v);
            $values[] = array_sum($each) / count($each);
        }
        arsort($values);
        $order = array_keys($values);
        $pairs = Comparison::pairs(12);
        $worse = false;
        foreach (array_slice($order, 1) as $t) {
            $test = $parts > 1 ? Comparison::ofFolds($trials[$t]->each($auc), $trials[$order[0]]->each($auc), 0.25, $pairs) : Comparison::ofRows($auc, $y, new Answers($scores[$t]), new Answers($scores[$order[0]]), null, $pairs);
            $worse = $worse || (null !== $test && !$test->isNoise());
        }
        $called += $worse ? 1 : 0;
        $lead += $values[$order[0]];
        if ($run < 40) {
            $luck += Luck::of($auc, $y, array_map(static fn (array $s): Answers => new Answers($s), $scores), $run) ?? 0.0;
        }
    }
    $r->line("one of 12 equal trials called worse, $how", $called / $times, 0.0, 0.05);
    $even = (new Normal())->cdf(0.8 / sqrt(2 * (1 + 0.49)));
    printf("    the leader's AUC is %.3f too high; told as luck %.3f\n", $lead / $times - $even, $luck / min(40, $times));
}

// What a column is worth to a trial (of a weak one a little less often than meant: docs/methods/importance.md), and how far two trials are apart: both against the procedure's own figures on new rows.
[$new, $newY] = $draw(4000, true, SplitPlan::CHANCE);
$names = ['a', 'b', 'c', 'd'];
$worth = $truths = [];
$apart = $trueApart = [];
$times = intdiv($runs, 2);
for ($run = 0; $run < $times; ++$run) {
    [$table, $y] = $draw(300, true, SplitPlan::CHANCE);
    $plan = new SplitPlan(0.0, 5, 2, $run);
    $lost = $full = $part = [];
    foreach ([0, 1] as $repeat) {
        foreach ($plan->parts($y, range(0, 299), $repeat) as $fold => $validation) {
            $training = $plan->training($y, range(0, 299), $validation);
            $model = Learners::make('logistic', [])->fit(new Task($table, $names, $y, $training, null, ['no', 'yes']));
            $other = Learners::make('logistic', [])->fit(new Task($table, ['b', 'c', 'd'], $y, $training, null, ['no', 'yes']));
            $drop = static fn (Table $rows, array $outcome, int $seed): array => array_map(static fn (array $d): float => -$d[0], PermutationImportance::of(static fn (Table $t): array => $model->predict($t), static fn (array $p): ?float => $auc->value($outcome, array_values(array_filter($p, is_float(...)))), $rows, $names, 1, $seed));
            $own = array_map(static fn (int $row): float => $y[$row], $validation);
            $lost[] = $drop($table->take($validation), $own, 2026);
            $full[] = $auc->value($own, $model->predict($table, $validation));
            $part[] = $auc->value($own, $other->predict($table, $validation));
            if (0 === $repeat && $fold < 2) {
                $truths[] = $drop($new, $newY, $run);
                $trueApart[] = $auc->value($newY, $model->predict($new)) - $auc->value($newY, $other->predict($new));
            }
        }
    }
    foreach ($names as $name) {
        $worth[$name][] = Resampled::interval(array_column($lost, $name), 5);
    }
    $apart[] = Comparison::ofFolds($full, $part, 0.25);
}
foreach (['a' => 'strong', 'c' => 'weak', 'd' => 'idle'] as $name => $what) {
    $truth = array_sum(array_column($truths, $name)) / count($truths);
    $r->line("importance of a column, $what", count(array_filter($worth[$name], static fn (Interval $i): bool => $i->low <= $truth && $truth <= $i->high)) / $times, 'c' === $name ? 0.87 : 0.92, 1.0, sprintf('worth %.3f', $truth));
}
$truth = array_sum($trueApart) / count($trueApart);
$r->line('difference of two trials, on folds', count(array_filter($apart, static fn (?Comparison $c): bool => null !== $c && $c->low <= $truth && $truth <= $c->high)) / $times, 0.92, 0.995, sprintf('apart by %.3f', $truth));

foreach ([5, 8, 12] as $events) {
    foreach ([0.3, 1.2, 2.2] as $apart) {
        $truth = (new Normal())->cdf($apart / sqrt(2));
        $held = 0;
        for ($run = 0; $run < $runs; ++$run) {
            $e = $s = [];
            for ($i = 0; $i < 200; ++$i) {
                $e[] = $i < $events ? 1.0 : 0.0;
                $s[] = ($i < $events ? $apart : 0.0) + $r->normal();
            }
            $i = DeLong::of($e, $s)->interval();
            $held += $i->low <= $truth && $truth <= $i->high ? 1 : 0;
        }
        $r->line(sprintf('AUC %.2f of %d events', $truth, $events), $held / $runs, 0.93, 0.98);
    }
}
foreach ([0.5, 0.8, 1.0] as $spread) {
    $square = exp(2 * $spread * $spread);
    $truth = ['rmse' => sqrt($square), 'r2' => 1 - $square / (9 + $square - exp($spread * $spread))];
    $held = ['rmse' => 0, 'r2' => 0];
    for ($run = 0; $run < intdiv($runs, 2); ++$run) {
        $a = $p = [];
        for ($i = 0; $i < 200; ++$i) {
            $p[] = $said = 3 * $r->normal();
            $a[] = $said + exp($spread * $r->normal());
        }
        foreach (array_intersect_key(numberFigures($a, $p), $held) as $key => $i) {
            $held[$key] += $i->low <= $truth[$key] && $truth[$key] <= $i->high ? 1 : 0;
        }
    }
    foreach ($held as $key => $count) {
        $r->line(sprintf('%s, lognormal errors of spread %.1f, 200 rows', $key, $spread), $count / max(1, intdiv($runs, 2)), 0.88, 0.99);
    }
}

foreach ([[5000, 60], [20000, 30]] as [$n, $events]) {
    $rate = $events / $n;
    $make = static function (int $rows) use ($r, $rate): array {
        $x = $z = $y = [];
        for ($i = 0; $i < $rows; ++$i) {
            $x[] = $v = $r->normal();
            $z[] = $r->normal();
            $y[] = $r->share() < 1 / (1 + exp(0.5 - log($rate / (1 - $rate)) - $v)) ? 1.0 : 0.0;
        }

        return [Table::of(['x' => new NumberColumn($x), 'z' => new NumberColumn($z)]), $y];
    };
    [$new] = $make(5000);
    $true = array_sum(array_map(static fn (float $v): float => 1 / (1 + exp(0.5 - log($rate / (1 - $rate)) - $v)), $new->number('x')->values)) / 5000;
    $times = max(5, intdiv($runs, 10));
    foreach (['logistic' => [], 'tree' => [], 'boosting' => ['trees' => 60], 'forest' => ['trees' => 15]] as $learner => $settings) {
        foreach ([Balance::WEIGHTED, Balance::THINNED] as $how) {
            $sum = $inside = 0.0;
            for ($run = 0; $run < $times; ++$run) {
                [$table, $y] = $make($n);
                $answers = (new Trying($table, ['x', 'z'], $y, new Preparation([]), Learners::make($learner, ['balance' => $how] + $settings)))->whole('t', 'yes')->answers($new);
                $mean = array_sum($answers->values) / 5000;
                $sum += $mean / $true;
                $inside += abs($mean - $true) <= 1.96 * sqrt($true * (1 - $true) / $n) ? 1 : 0;
            }
            $r->line("mean chance over true rate, $learner, $how, $events in $n", $sum / $times, 0.95, 1.05, sprintf('single runs within binomial limits: %.0f %%', 100 * $inside / $times), false);
        }
    }
}
$r->end();
