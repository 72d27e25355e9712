<?php

declare(strict_types=1);

/**
 * How often 95 % intervals hold the truth, where the truth is known: made-up samples are drawn again and again (make coverage, first part).
 */
require __DIR__.'/../../vendor/autoload.php';
require_once __DIR__.'/figures.php';

use Dokimos\Core\Learn\Linear\LinearRegression;
use Dokimos\Core\Learn\Linear\LinearReport;
use Dokimos\Core\Learn\Logistic\LogisticRegression;
use Dokimos\Core\Measure\BinaryScores;
use Dokimos\Core\Measure\Bootstrap;
use Dokimos\Core\Measure\DeLong;
use Dokimos\Core\Measure\Interval;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Table;
use Dokimos\Core\Task\Task;
use Random\Engine\Xoshiro256StarStar;
use Random\Randomizer;

$random = new Randomizer(new Xoshiro256StarStar(hash('sha256', 'coverage', true)));
$share = static fn (): float => $random->getInt(1, 1_000_000) / 1_000_001;
$normal = static fn (): float => sqrt(-2 * log($share())) * cos(2 * \M_PI * $share());
$runs = (int) ($argv[1] ?? 2000);
$held = [];
$count = static function (string $what, ?float $low, ?float $high, float $truth) use (&$held): void {
    $held[$what] ??= [0, 0];
    ++$held[$what][1];
    $held[$what][0] += null !== $low && null !== $high && $low <= $truth && $truth <= $high ? 1 : 0;
};

/** Chances from a logistic of two columns, with outcomes drawn from them. */
$events = static function (int $n) use ($normal, $share): array {
    $score = $event = [];
    for ($i = 0; $i < $n; ++$i) {
        $p = 1 / (1 + exp(1.6 - 1.2 * $normal()));
        $score[] = $p;
        $event[] = $share() < $p ? 1.0 : 0.0;
    }

    return [$event, $score];
};
[$event, $score] = $events(400_000);
$large = new BinaryScores($event, $score);
$truth = ['auc' => (float) $large->auc(), 'logLoss' => array_sum($large->logLosses()) / 400_000, 'brier' => array_sum($large->squares()) / 400_000, 'rate' => array_sum($event) / 400_000];
$cut = static function (array $event, array $score): array {
    $tp = $fp = $fn = 0;
    foreach ($event as $i => $e) {
        $called = $score[$i] >= 0.25;
        $tp += $called && $e > 0.5 ? 1 : 0;
        $fp += $called && $e < 0.5 ? 1 : 0;
        $fn += !$called && $e > 0.5 ? 1 : 0;
    }

    return [$tp, $fp, $fn];
};
[$tp, $fp, $fn] = $cut($event, $score);
$truth += ['recall' => $tp / ($tp + $fn), 'f1' => 2 * $tp / (2 * $tp + $fp + $fn)];
$truth += ['averagePrecision' => (float) $large->averagePrecision(), 'ks' => $large->ks()['statistic']];
$confusion = [[0, 0, 0], [0, 0, 0], [0, 0, 0]];
foreach ($event as $row => $e) {
    ++$confusion[(int) $e + ($share() < 0.2 ? 1 : 0)][(int) ($score[$row] >= 0.25) + ($share() < 0.3 ? 1 : 0)];
}
$agreed = array_map(static fn (Interval $i): ?float => $i->value, Bootstrap::confusion($confusion));
for ($run = 0; $run < $runs; ++$run) {
    [$event, $score] = $events(500);
    $scores = new BinaryScores($event, $score);
    $auc = DeLong::of($event, $score)->interval();
    $count('AUC, DeLong, 500 rows', $auc->low, $auc->high, $truth['auc']);
    // Low chances are kept less often, and count the more.
    $kept = array_filter(array_keys($event), static fn (int $i): bool => $score[$i] >= 0.2 || $share() < 0.4);
    $of = static fn (array $list): array => array_values(array_intersect_key($list, array_flip($kept)));
    $weights = array_map(static fn (float $s): float => $s >= 0.2 ? 1.0 : 2.5, $of($score));
    $auc = DeLong::of($of($event), $of($score), $weights)->interval();
    $count('AUC, weighted, about 330 rows', $auc->low, $auc->high, $truth['auc']);
    $i = Interval::mean($of($scores->squares()), $weights);
    $count('Brier, weighted', $i->low, $i->high, $truth['brier']);
    foreach (['log loss' => [$scores->logLosses(), 'logLoss'], 'Brier' => [$scores->squares(), 'brier']] as $name => [$losses, $key]) {
        $i = Interval::mean($losses);
        $count($name.', mean of rows, 500', $i->low, $i->high, $truth[$key]);
    }
    if ($run < min(1000, $runs)) {
        foreach ($scores->drawnAgain() as $name => $i) {
            $count($name.', drawn again, 500 rows', $i->low, $i->high, $truth[$name]);
        }
        $confusion = [[0, 0, 0], [0, 0, 0], [0, 0, 0]];
        foreach ($event as $row => $e) {
            ++$confusion[(int) $e + ($share() < 0.2 ? 1 : 0)][(int) ($score[$row] >= 0.25) + ($share() < 0.3 ? 1 : 0)];
        }
        foreach (Bootstrap::confusion($confusion) as $name => $i) {
            $count($name.' of three classes, drawn again', $i->low, $i->high, $agreed[$name]);
        }
    }
    [$tp, $fp, $fn] = $cut($event, $score);
    $i = Interval::wilson($tp, $tp + $fn);
    $count('recall, Wilson, 500 rows', $i->low, $i->high, $truth['recall']);
    $i = Interval::f1($tp, $fp, $fn);
    $count('F1, Wilson carried over, 500 rows', $i->low, $i->high, $truth['f1']);
    $few = array_sum(array_slice($event, 0, 40));
    $i = Interval::wilson($few, 40);
    $count('share in a leaf of 40, Wilson', $i->low, $i->high, $truth['rate']);
}

/** Chances of three classes, somewhat wrong, with the class drawn from the right ones. */
$several = static function (int $n) use ($normal, $share): array {
    $shares = [[], [], []];
    $actual = [];
    for ($i = 0; $i < $n; ++$i) {
        $raised = [1.0, exp(0.9 * $normal() - 0.4), exp(0.7 * $normal() + 0.2)];
        $all = array_sum($raised);
        foreach ($raised as $k => $e) {
            $shares[$k][] = $e / $all;
        }
        $u = $share() * $all;
        $actual[] = $u < $raised[0] ? 0 : ($u < $raised[0] + $raised[1] ? 1 : 2);
    }

    return [$actual, $shares];
};
$mean = static fn (array $actual, array $shares): Interval => DeLong::mean(array_map(static fn (array $own, int $k): DeLong => DeLong::of(array_map(static fn (int $a): float => (float) ($a === $k), $actual), $own), $shares, array_keys($shares)));
$macro = (float) $mean(...$several(300_000))->value;
for ($run = 0; $run < $runs; ++$run) {
    $i = $mean(...$several(400));
    $count('mean AUC of three classes, 400 rows', $i->low, $i->high, $macro);
}

/** Numbers whose errors lean to one side. */
$numbers = static function (int $n) use ($normal, $share): array {
    $actual = $predicted = [];
    for ($i = 0; $i < $n; ++$i) {
        $predicted[] = $p = 50 + 12 * $normal();
        $actual[] = $p + 4 * $normal() - 6 * log($share()) - 6;
    }

    return [$actual, $predicted];
};
$known = array_map(static fn (Interval $i): float => (float) $i->value, numberFigures(...$numbers(400_000)));
for ($run = 0; $run < $runs; ++$run) {
    foreach (numberFigures(...$numbers(600)) as $name => $i) {
        $count($name.' of a number, 600 rows', $i->low, $i->high, $known[$name]);
    }
}

for ($run = 0; $run < min(1000, $runs); ++$run) {
    $x = $z = $y = $event = [];
    for ($i = 0; $i < 160; ++$i) {
        $x[] = $a = $normal();
        $z[] = $b = $normal() + 0.6 * $a;
        $y[] = 3 + 2 * $a - $b + 1.5 * $normal();
        $event[] = $share() < 1 / (1 + exp(0.8 - 0.9 * $a)) ? 1.0 : 0.0;
    }
    $table = Table::of(['x' => new NumberColumn($x), 'z' => new NumberColumn($z)]);
    $model = (new LinearRegression())->fit(new Task($table, ['x', 'z'], $y, range(0, 159), null, null));
    $c = $model->coefficients()[1];
    $count('linear coefficient, t, 160 rows', $c['ci_low'], $c['ci_high'], 2.0);
    $new = LinearReport::predictions($model, Table::of(['x' => new NumberColumn([1.0]), 'z' => new NumberColumn([0.0])]))[0];
    $count('linear mean at a point', $new['ci_low'], $new['ci_high'], 5.0);
    $count('linear single new row', $new['pi_low'], $new['pi_high'], 5.0 + 1.5 * $normal());
    $logistic = (new LogisticRegression())->fit(new Task($table, ['x', 'z'], $event, range(0, 159)))->coefficients[1]->toArray();
    $count('logistic coefficient, Wald, 160 rows', $logistic['ci_low'], $logistic['ci_high'], 0.9);
}

printf("%-40s %8s %8s   %s\n", 'interval', 'held', 'runs', '93 to 97 %');
$all = true;
foreach ($held as $what => [$hits, $of]) {
    $good = $hits / $of >= 0.93 && $hits / $of <= 0.97;
    $all = $all && $good;
    printf("%-40s %7.1f%% %8d   %s\n", $what, 100 * $hits / $of, $of, $good ? 'yes' : 'NO');
}
exit($all ? 0 : 1);
