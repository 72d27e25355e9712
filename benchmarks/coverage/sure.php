<?php

declare(strict_types=1);

/**
 * How sure: how often intervals of single numbers hold what comes, in all and in thirds of what is predicted, and sets of classes alike; on
 * four
 * made problems of 1,000 rows, judged on 300 fresh ones (make coverage, fourth part).
 */
require __DIR__.'/../../vendor/autoload.php';
require __DIR__.'/Report.php';

use Dokimos\Benchmarks\Report;
use Dokimos\Core\Explain\Sure;
use Dokimos\Core\Learners\Learners;
use Dokimos\Core\Prepare\Preparation;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Table;
use Dokimos\Core\Task\Answers;
use Dokimos\Core\Task\Task;
use Dokimos\Core\Validate\Trying;

const ROWS = 1000;
const FRESH = 300;
const FOLDS = 5;
$runs = (int) ($argv[1] ?? 500);
$r = new Report('sure');
/** @return array{Table, list<float>} */
$draw = static function (int $n, string $problem) use ($r): array {
    $x = [[], [], []];
    $y = [];
    for ($i = 0; $i < $n; ++$i) {
        $own = [3 * $r->share(), $r->normal(), $r->normal()];
        foreach ($own as $j => $v) {
            $x[$j][] = $v;
        }
        $mean = 10 + 4 * $own[0] + $own[1];
        $y[] = match ($problem) {
            'even errors' => $mean + 2 * $r->normal(),
            'errors that grow' => $mean + (0.4 + 1.2 * $own[0]) * $r->normal(),
            'long tails' => $mean + 1.5 * $r->normal() / max(0.15, abs($r->normal())),
            default => (float) (($own[0] + 0.8 * $r->normal() > 1) + ($own[0] + $own[1] / 2 + 0.8 * $r->normal() > 2)),
        };
    }

    return [Table::of(['a' => new NumberColumn($x[0]), 'b' => new NumberColumn($x[1]), 'c' => new NumberColumn($x[2])], $n), $y];
};
$answers = static function (array $fit, Table $table): Answers {
    [$own, $y, $classes, $learner] = $fit;
    $model = (new Trying($own, ['a', 'b', 'c'], $y, new Preparation([]), $learner, $classes))->whole('y', '');

    return $model->answers($model->select($table, $model->byName()));
};
foreach (['even errors', 'errors that grow', 'long tails', 'three classes'] as $problem) {
    $classes = 'three classes' === $problem ? ['0', '1', '2'] : null;
    $task = null === $classes ? Task::NUMBER : Task::MORE;
    // Classes take far longer to fit: fewer runs say enough of them.
    $times = null === $classes ? $runs : max(10, intdiv($runs, 5));
    $held = [80 => [0, 0, 0], 95 => [0, 0, 0]];
    $all = [0, 0, 0];
    $sets = $size = $of = $right = 0;
    for ($run = 0; $run < $times; ++$run) {
        [$table, $y] = $draw(ROWS, $problem);
        $learner = Learners::make(null === $classes ? 'linear' : 'multinomial', null === $classes ? [] : ['penalty' => 'ridge']);
        $width = null === $classes ? 1 : 3;
        $out = array_fill(0, ROWS * $width, \NAN);
        for ($fold = 0; $fold < FOLDS; ++$fold) {
            $test = array_values(array_filter(range(0, ROWS - 1), static fn (int $i): bool => $i % FOLDS === $fold));
            $train = array_values(array_diff(range(0, ROWS - 1), $test));
            $said = $answers(
                [$table->take($train), array_map(static fn (int $i): float => $y[$i], $train), $classes, $learner],
                $table->take($test),
            );
            foreach ($test as $k => $row) {
                for ($w = 0; $w < $width; ++$w) {
                    $out[$row * $width + $w] = $said->values[$k * $width + $w];
                }
            }
        }
        $sure = new Sure($task, $y, new Answers(array_values($out), $width), $classes);
        [$fresh, $truth] = $draw(FRESH, $problem);
        $said = $answers([$table, $y, $classes, $learner], $fresh);
        if (null !== $classes) {
            foreach ($truth as $i => $class) {
                $set = $sure->ofClasses($said->of($i));
                $sets += in_array($classes[(int) $class], $set, true) ? 1 : 0;
                $size += count($set);
                $right += $said->likeliest($i) === (int) $class ? 1 : 0;
                ++$of;
            }
            continue;
        }
        $order = $said->values;
        sort($order);
        [$first, $second] = [$order[intdiv(FRESH, 3)], $order[intdiv(2 * FRESH, 3)]];
        foreach ($truth as $i => $came) {
            $third = $said->values[$i] < $first ? 0 : ($said->values[$i] < $second ? 1 : 2);
            ++$all[$third];
            foreach ([80, 95] as $level) {
                [$low, $high] = $sure->ofNumber($said->values[$i], $level) ?? [\NAN, \NAN];
                $held[$level][$third] += $low <= $came && $came <= $high ? 1 : 0;
            }
        }
    }
    if (null !== $classes) {
        $r->line(
            "$problem: the set holds what comes",
            $sets / $of,
            0.88,
            1.0,
            sprintf('%.2f classes on average; the likeliest is right in %.1f %%', $size / $of, 100 * $right / $of),
        );
        continue;
    }
    foreach ([80, 95] as $level) {
        $r->line(
            "$problem: the $level % interval holds what comes",
            array_sum($held[$level]) / array_sum($all),
            $level / 100 - 0.02,
            $level / 100 + 0.02,
        );
        foreach (['lowest', 'middle', 'highest'] as $k => $name) {
            $r->line("  in the $name third of what is predicted", $held[$level][$k] / $all[$k], $level / 100 - 0.04, $level / 100 + 0.04);
        }
    }
}
$r->end();
