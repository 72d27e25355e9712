<?php

// make bench: quality of the learners on reference data and their speed on made-up data, beside the peers where those are installed.
// learners.php [quality|speed [TASK...]]; the peers' folder is DOKIMOS_PEERS, or ../shared/peers.

declare(strict_types=1);

use Dokimos\Core\Design\Coding;
use Dokimos\Core\Format\Conversion;
use Dokimos\Core\Format\CsvFile;
use Dokimos\Core\Learn\Additive\AdditiveBoosting;
use Dokimos\Core\Learn\Bayes\BayesNetwork;
use Dokimos\Core\Learn\Bayes\NaiveBayes;
use Dokimos\Core\Learn\Boosting\GradientBoosting;
use Dokimos\Core\Learn\Forest\RandomForest;
use Dokimos\Core\Learn\Learner;
use Dokimos\Core\Learn\Linear\LinearRegression;
use Dokimos\Core\Learn\Logistic\LogisticRegression;
use Dokimos\Core\Learn\Network\NeuralNetwork;
use Dokimos\Core\Learn\TellsClasses;
use Dokimos\Core\Learn\Tree\DecisionTree;
use Dokimos\Core\Learners\Learners;
use Dokimos\Core\Measure\BinaryScores;
use Dokimos\Core\Measure\ClassFigures;
use Dokimos\Core\Measure\NumberFigures;
use Dokimos\Core\Prepare\Preparation;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Table;
use Dokimos\Core\Table\TextColumn;
use Dokimos\Core\Task\Task;

$root = dirname(__DIR__);
require $root.'/vendor/autoload.php';
ini_set('memory_limit', '8G');

/** Quality on the reference's cases, with the settings of each learner as they are. */
function quality(string $reference): void
{
    $kin = [
        'logistic' => 'linear',
        'multinomial' => 'linear',
        'linear' => 'linear',
        'tree' => 'cart',
        'forest' => 'random_forest',
        'boosting' => 'gradient_boosting',
        'naive-bayes' => 'naive_bayes',
        'bayes-network' => 'naive_bayes',
        'neighbors' => 'nearest_neighbours',
        'neural-network' => 'neural_network',
        'additive' => 'additive',
    ];
    printf("%-20s %-12s %-44s %s\n", 'case', 'learner', 'figures (reference)', 'within the margin');
    foreach (glob($reference.'/learner-quality-*', \GLOB_ONLYDIR) ?: [] as $dir) {
        $case = substr(basename($dir), strlen('learner-quality-'));
        $test = json_decode((string) file_get_contents($dir.'/expected.json'), true)['test_quality'];
        [$train] = (new CsvFile($dir.'/train.csv'))->read();
        $kinds = array_map(static fn ($c) => $c->kind(), $train->columns());
        [$raw] = (new CsvFile($dir.'/test.csv'))->read();
        $number = isset($test['linear']['rmse']);
        $classes = $number ? null : distinct($train, 'target');
        $outcome = static fn (Table $t): array => array_map(
            static fn (int $r): float => null === $classes ? (float) $t->column('target')->text($r) : (float) array_search(
                $t->column('target')->text($r),
                $classes,
                true,
            ),
            range(0, $t->rows - 1),
        );
        [$y, $truth] = [$outcome($train), $outcome($raw)];
        $names = array_values(array_filter(
            $train->names(),
            static fn (string $n) => 'target' !== $n && !$train->column($n) instanceof TextColumn,
        ));
        $new = Table::of(
            array_combine($names, array_map(static fn (string $n) => Conversion::to($raw->column($n), $kinds[$n]), $names)),
            $raw->rows,
        );
        $own = $train->without(array_values(array_diff($train->names(), $names)));
        foreach (Learners::all() as $about) {
            $task = new Task($own, $names, $y, range(0, $train->rows - 1), null, $classes);
            if (!in_array($task->kind(), $about->tasks, true) || !isset($kin[$about->name])) {
                continue;
            }
            // A regression cannot answer where a value is missing: it gets the preparation that an analyst would give it.
            $steps = 'linear' === $kin[$about->name] ? [
                ['step' => 'fill_missing', 'choose' => ['kinds' => ['number'], 'missing' => true], 'method' => 'median', 'mark' => true],
                [
                    'step' => 'fill_missing',
                    'choose' => ['kinds' => ['category', 'yes/no'], 'missing' => true],
                    'method' => 'constant',
                    'constant' => 'none',
                ],
                ['step' => 'group_rare', 'choose' => ['kinds' => ['category'], 'missing' => false], 'share' => 0.001],
            ] : [];
            // The margin of naive Bayes binds its chances as they come.
            $settings = match ($about->name) {
                'logistic' => ['penalty' => 'ridge'],
                'naive-bayes' => ['calibrate' => 'no'],
                default => [],
            };
            try {
                $fitted = Preparation::fromArray($steps)->fit($own, $task->rows);
                $table = $fitted->learned->table ?? $own;
                $begun = microtime(true);
                $model = Learners::make($about->name, $settings)->fit(new Task($table, $table->names(), $y, $task->rows, null, $classes));
                $seconds = microtime(true) - $begun;
                $figures = figures($model, $fitted->apply($new)->table, $truth, $classes);
            } catch (RuntimeException $e) {
                printf("%-20s %-12s %s\n", $case, $about->name, $e->getMessage());
                continue;
            }
            $ref = $test[$kin[$about->name]];
            $said = [];
            $holds = true;
            foreach ($figures as $name => $value) {
                $margin = match ($name) {
                    'auc' => str_contains($case, 'rare') ? 0.02 : 0.015,
                    'accuracy' => 0.015,
                    default => (str_contains($case, 'rare') ? 0.04 : 0.03) * $ref[$name],
                };
                $margin = max($margin, $ref['spread_over_seeds'][$name] ?? 0.0);
                $holds = $holds && (in_array($name, ['auc', 'accuracy'], true) ? $value >= $ref[$name] - $margin : $value <= $ref[$name] + $margin);
                $said[] = sprintf('%s %.4f (%.4f)', $name, $value, $ref[$name]);
            }
            printf("%-20s %-12s %-44s %s, %.1f s\n", $case, $about->name, implode(', ', $said), $holds ? 'yes' : 'NO', $seconds);
        }
    }
}

/** @return list<string> */
function distinct(Table $table, string $name): array
{
    $out = [];
    for ($row = 0; $row < $table->rows; ++$row) {
        $out[(string) $table->column($name)->text($row)] = true;
    }
    $out = array_map(strval(...), array_keys($out));
    sort($out, \SORT_STRING);

    return $out;
}

/** @return array<string, float> */
function figures(object $model, Table $new, array $truth, ?array $classes): array
{
    if (null === $classes) {
        return ['rmse' => NumberFigures::of(
            $truth,
            array_map(static fn (float $v) => is_nan($v) ? 0.0 : $v, $model->predict($new)),
        )['rmse']];
    }
    if ($model instanceof TellsClasses && count($classes) > 2) {
        $f = ClassFigures::of($classes, array_map(intval(...), $truth), $model->shares($new));

        return ['log_loss' => $f['log_loss'], 'accuracy' => $f['accuracy']];
    }
    $scores = new BinaryScores($truth, $model->predict($new));
    $losses = $scores->logLosses();

    return ['auc' => (float) $scores->auc(), 'log_loss' => array_sum($losses) / count($losses)];
}

/** Rows with effects that bend, act together and are missing for a reason; written for the peers as well. */
function made(string $folder, string $name, int $rows, int $columns, int $seed): array
{
    $random = new Random\Randomizer(new Random\Engine\Xoshiro256StarStar($seed));
    $share = static fn (): float => $random->getInt(1, 1 << 50) / (1 << 50);
    $normal = static fn (): float => sqrt(-2 * log($share())) * cos(2 * \M_PI * $share());
    $x = array_fill(0, $columns, []);
    $y = [];
    for ($i = 0; $i < $rows; ++$i) {
        $v = [];
        for ($j = 0; $j < $columns; ++$j) {
            $v[] = $normal();
        }
        [$v[1], $v[3], $v[7], $v[11]] = [
            exp($v[1]),
            (float) $random->getInt(0, 11),
            (float) $random->getInt(0, 49),
            (float) $random->getInt(0, 2),
        ];
        $z = 1.2 * sin(2 * $v[0]) + $v[2] * $v[4] + ($v[5] > 0.3 && $v[6] < 0.1 ? 0.8 : 0.0) - (1 === (int) $v[3] % 3 ? 0.5 * log($v[1]) : 0.0) + 0.04 * ($v[7] - 25) * $v[8] + 0.5 * abs($v[9]) - 0.4 + (2.0 === $v[11] ? 0.6 * $v[10] : 0.0);
        $y[] = $share() < 1 / (1 + exp(-$z)) ? 1.0 : 0.0;
        foreach ([0, 2, 5, 8, 12] as $j) {
            if ($share() < 0.05 + 0.01 * $j || (2 === $j && $z > 2 && $random->getInt(0, 1))) {
                $v[$j] = \NAN;
            }
        }
        foreach ($v as $j => $c) {
            $x[$j][] = $c;
        }
    }
    $out = '';
    foreach ($x as $column) {
        foreach (array_chunk($column, 65536) as $part) {
            $out .= pack('e*', ...$part);
        }
    }
    file_put_contents("$folder/$name.X.f64", $out);
    file_put_contents("$folder/$name.y.u8", implode('', array_map(static fn (float $v) => chr((int) $v), $y)));
    $table = Table::of(array_map(
        static fn (array $c) => new NumberColumn($c),
        array_combine(array_map(static fn (int $j) => 'x'.$j, range(0, $columns - 1)), $x),
    ));

    return [$table, $y];
}

function cpu(): float
{
    $u = getrusage();

    return $u['ru_utime.tv_sec'] + $u['ru_utime.tv_usec'] / 1e6 + $u['ru_stime.tv_sec'] + $u['ru_stime.tv_usec'] / 1e6;
}

/**
 * What is timed: data, rows, learner, rounds, what the peer calls it, and by how much its fit is divided (epochs).
 *
 * @return array<string, array{string, int, Learner, int, ?string, int}>
 */
function tasks(): array
{
    $boost = static fn (array $more): Learner => new GradientBoosting($more + [
        'rate' => 0.1,
        'patience' => 0,
        'columns' => 1.0,
        'ridge' => 0.0,
        'trees' => 100,
        'depth' => 6,
        'leaves' => 64,
    ]);
    $forest = static fn (array $more): Learner => new RandomForest($more + ['trees' => 100, 'tried' => 'the square root', 'leaf' => 1]);

    return [
        'gb10k' => ['tr10k', 10_000, $boost([]), 5, 'gb10k', 1],
        'gb100k' => ['tr100k', 100_000, $boost([]), 5, 'gb100k', 1],
        'gb100kl' => ['tr100k', 100_000, $boost(['depth' => 0, 'leaves' => 31]), 5, 'gb100kl', 1],
        'gb1m' => ['tr1m', 1_000_000, $boost(['trees' => 10]), 5, 'gb1m', 1],
        'rf10k' => ['tr10k', 10_000, $forest([]), 5, 'rf10k', 1],
        'rf100k' => ['tr100k', 100_000, $forest([]), 1, 'rf100k', 1],
        'tree100k' => ['tr100k', 100_000, new DecisionTree(['depth' => 0, 'leaf' => 5, 'divide' => 10, 'judged' => 0.0]), 5, 'tree100k', 1],
        'mlp' => ['tr100k', 100_000, new NeuralNetwork([
            'layers' => '32, 16', 'find' => false, 'l2' => 0.0, 'rate' => 0.001, 'schedule' => 'stays', 'batch' => 64,
            'epochs' => 5, 'held' => 0.0,
        ]), 5, 'mlp', 5],
        'rf1m' => ['tr1m', 1_000_000, $forest(['trees' => 10, 'leaf' => 10]), 1, null, 1],
        'tree1m' => ['tr1m', 1_000_000, new DecisionTree([]), 1, null, 1],
        'logistic1m' => ['tr1m', 1_000_000, new LogisticRegression(['missing' => Coding::MARK]), 1, null, 1],
        'linear1m' => ['tr1m', 1_000_000, new LinearRegression(['missing' => Coding::MARK]), 1, null, 1],
        'additive100k' => ['tr100k', 100_000, new AdditiveBoosting(['pairs' => 0, 'bags' => 8]), 1, null, 1],
        'bayes100k' => ['tr100k', 100_000, new NaiveBayes(), 1, null, 1],
        'network100k' => ['tr100k', 100_000, new BayesNetwork(), 1, null, 1],
    ];
}

/**
 * Rounds of ours and the peer's in turn, so that what the machine does meanwhile meets both. Medians, and the least and the largest ratio.
 *
 * @param list<string> $wanted
 */
function speed(string $peers, array $wanted): void
{
    $folder = sys_get_temp_dir().'/dokimos-peers-'.bin2hex(random_bytes(3));
    mkdir($folder.'/data', recursive: true);
    $made = ['te100k' => made($folder.'/data', 'te100k', 100_000, 20, 2)];
    printf(
        "%-13s %8s %8s %-20s %9s %8s %-20s %8s %s\n",
        'task',
        'fit s',
        'peer s',
        'ratio (from to)',
        'predict s',
        'peer s',
        'ratio (from to)',
        'peak MB',
        'AUC (peer)',
    );
    $tasks = tasks();
    foreach ([] === $wanted ? array_keys($tasks) : $wanted as $task) {
        [$name, $rows, $learner, $rounds, $as, $parts] = $tasks[$task];
        $made[$name] ??= made($folder.'/data', $name, $rows, 20, 1);
        [$table, $y] = $made[$name];
        $fits = $predicts = [];
        $peerFits = $peerPredicts = [];
        $model = null;
        $auc = '-';
        for ($round = 0; $round < $rounds; ++$round) {
            $before = cpu();
            $model = $learner->fit(new Task($table, $table->names(), $y, range(0, $rows - 1)));
            $fits[] = (cpu() - $before) / $parts;
            $before = cpu();
            $chances = $model->predict($made['te100k'][0]);
            $predicts[] = cpu() - $before;
            if (null === $as || !is_file($peers.'/peers_sklearn.py')) {
                continue;
            }
            $said = (string) shell_exec(sprintf(
                'cd %s && OMP_NUM_THREADS=1 OPENBLAS_NUM_THREADS=1 REP=1 /usr/bin/python3 %s %s 1 2>/dev/null',
                escapeshellarg($folder),
                escapeshellarg($peers.'/peers_sklearn.py'),
                $as,
            ));
            $of = static fn (string $what): ?float => preg_match('/'.$what.'=([0-9.]+)/', $said, $m) ? (float) $m[1] : null;
            $peerFits[] = $of('cpu');
            $peerPredicts[] = $of('predict100k');
            $auc = preg_match('/AUC[^=]*=([0-9.]+)/', $said, $m) ? sprintf('%.4f', $m[1]) : '-';
        }
        printf(
            "%-13s %8.2f %8s %-20s %9.2f %8s %-20s %8d %s\n",
            $task,
            median($fits),
            said(array_filter($peerFits, is_float(...))),
            ratio($fits, $peerFits),
            median($predicts),
            said(array_filter($peerPredicts, is_float(...))),
            ratio($predicts, $peerPredicts),
            memory_get_peak_usage(true) >> 20,
            sprintf('%.4f (%s)', (new BinaryScores($made['te100k'][1], $chances))->auc(), $auc),
        );
    }
    array_map(unlink(...), glob($folder.'/data/*') ?: []);
    rmdir($folder.'/data');
    rmdir($folder);
}

/** @param non-empty-list<float> $values */
function median(array $values): float
{
    sort($values);

    return $values[intdiv(count($values), 2)];
}

/** @param list<float> $values */
function said(array $values): string
{
    return [] === $values ? '-' : sprintf('%.2f', median(array_values($values)));
}

/**
 * @param list<float>  $own
 * @param list<?float> $peer of the same rounds
 */
function ratio(array $own, array $peer): string
{
    $ratios = [];
    foreach ($peer as $i => $p) {
        if (null !== $p && $p > 0.0) {
            $ratios[] = $own[$i] / $p;
        }
    }

    return [] === $ratios ? '-' : sprintf('%.2f (%.2f %.2f)', median($ratios), min($ratios), max($ratios));
}

$what = $argv[1] ?? '';
$text = '';
// Shown as it comes, and kept for the page.
ob_start(static function (string $part) use (&$text): string {
    $text .= $part;

    return $part;
}, 1);
if ('speed' !== $what) {
    quality(getenv('DOKIMOS_REFERENCE') ?: $root.'/../shared/reference');
    echo "\n";
}
if ('quality' !== $what) {
    speed(getenv('DOKIMOS_PEERS') ?: $root.'/../shared/peers', array_slice($argv, 2));
}
ob_end_flush();
if ('' === $what) {
    $page = $root.'/docs/benchmarks-learners.md';
    // What is said of the figures by hand stays below them.
    $said = strstr((string) file_get_contents($page), "\n## What falls short") ?: '';
    file_put_contents(
        $page,
        "# Learners: quality and speed\n\nMade by `make bench` on ".date('j M Y').' with PHP '.\PHP_VERSION
        .". Quality: settings as they are, on the reference's cases; logistic regression with a ridge of 1."
        .' Speed: CPU seconds in one process, beside the compiled library in one thread, in turn with it: medians of five rounds'
        .' (of one where forests of 100,000 rows are grown), with the least and the largest ratio.'
        ." A network's seconds are those of an epoch.\n\n```text\n".$text."```\n".$said,
    );
}
