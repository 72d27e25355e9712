<?php

declare(strict_types=1);

/**
 * make bench, the reasons: accounts, curves, likeness and reach of a boosted model of 600 trees of 12 leaves on the demo, one process. With
 * and
 * without compiling while it runs: workers compile, the web program does not.
 */
require __DIR__.'/../vendor/autoload.php';

use App\Demo\VisitGenerator;
use Dokimos\Core\Decide\ExactAccount;
use Dokimos\Core\Decide\Reasoning;
use Dokimos\Core\Explain\Basis;
use Dokimos\Core\Explain\Free;
use Dokimos\Core\Explain\Likeness;
use Dokimos\Core\Explain\Sure;
use Dokimos\Core\Explain\Want;
use Dokimos\Core\Format\CsvFile;
use Dokimos\Core\Learners\Learners;
use Dokimos\Core\Prepare\Preparation;
use Dokimos\Core\Table\Kind;
use Dokimos\Core\Table\Table;
use Dokimos\Core\Validate\Trying;

$file = tempnam(sys_get_temp_dir(), 'dokimos-reasons-').'.csv';
file_put_contents($file, implode('', iterator_to_array(VisitGenerator::forPart(2026, 'visits')->visits(6000), false)));
[$raw] = (new CsvFile($file))->read([
    'boiler_class' => Kind::Category,
    'booking_note' => Kind::Text,
    'visit_id' => Kind::Identifier,
    'household_id' => Kind::Identifier,
]);
unlink($file);
$without = [
    'return_visit',
    'outcome',
    'minutes_on_site',
    'parts_ordered_after',
    'visit_id',
    'household_id',
    'currency',
    'depot',
    'access_code',
    'booking_note',
];
$names = array_values(array_diff($raw->names(), $without));
$table = Table::of(array_combine($names, array_map($raw->column(...), $names)), $raw->rows);
$outcome = array_map(static fn (int $i): float => 'yes' === $raw->column('return_visit')->text($i) ? 1.0 : 0.0, range(0, $raw->rows - 1));
$learner = Learners::make('boosting', ['trees' => 600, 'leaves' => 12, 'patience' => 0, 'rate' => 0.01]);
$model = (new Trying($table, $names, $outcome, new Preparation([]), $learner))->whole('return_visit', 'yes');
$all = $model->select($table, $model->byName());
$seen = $all->take(range(0, 5999, 6));
$clock = static function (string $what, Closure $do, int $times = 1): mixed {
    $best = \INF;
    $out = null;
    for ($k = 0; $k < $times; ++$k) {
        $begun = microtime(true);
        $out = $do();
        $best = min($best, microtime(true) - $begun);
    }
    printf("%-64s %8.0f ms\n", $what, 1000 * $best);

    return $out;
};
printf("%s, %s, %d columns as they came\n", $model->model->size(), \PHP_VERSION, count($names));
$likeness = $clock('likeness of 1,000 records, once a trial', static fn (): Likeness => new Likeness($seen));
$basis = new Basis(
    $all->take(range(0, 5999, 30)),
    $seen,
    range(1, 1000),
    array_fill(0, 1000, 0.0),
    $likeness,
    new Sure($model->task, $outcome, $model->answers($all), ['no', 'yes']),
);
$reasoning = new Reasoning($model, $basis);
$record = $all->take([3]);
$told = $clock('account of one record, drawn orders, 100 background records', static fn () => $reasoning->account($record, null), 3);
printf("  %d orders, largest standard error %.2f points\n", $told->orders, 100 * max($told->errors));
$clock('the same, 200 background records', static fn () => $reasoning->account($record, null, 200), 3);
$exact = $clock(
    'laid down for exact accounts, once a model, 200 background records',
    static fn () => ExactAccount::of($model, $basis->background, null),
);
if (null !== $exact) {
    $own = $clock('exact account of one record, in log-odds and points', static fn () => $exact->told($model, $record), 5);
    printf("  adds up to %.1e\n", abs(array_sum($own->values) - $own->answer + $own->base));
    $clock('exact accounts of 200 records', static function () use ($exact, $model, $all): void {
        for ($row = 0; $row < 200; ++$row) {
            $exact->told($model, $all->take([$row]));
        }
    });
    $kept = serialize($exact);
    printf("  kept in %.1f MB\n", strlen($kept) / 1e6);
    $clock('read back', static fn () => unserialize($kept), 3);
}
$clock('likeness of one record', static fn () => $likeness->of($record, 0), 5);
$clock(
    'curve of one column for 200 records, 20 values',
    static fn () => $reasoning->curves($basis->background, 'days_ahead', $reasoning->grid('days_ahead'), null),
    3,
);
$clock('all curves of one record, as what-if asks for twice', static function () use ($reasoning, $record, $names): void {
    foreach ($names as $name) {
        $reasoning->curves($record, $name, $reasoning->grid($name), null);
    }
}, 3);
$clock('accumulated local effects of one column', static fn () => $reasoning->accumulated('days_ahead', null), 3);
$free = array_map(
    static fn (string $c): Free => new Free($c),
    ['days_ahead', 'slot', 'reminder_sent', 'engineer_years', 'contact_channel'],
);
$reached = $clock('reach, five free columns', static fn () => $reasoning->reach($record, $free, Want::between(null, 0.05), 0.05), 3);
printf("  %d tried, %d found\n", $reached['tried'], count($reached['found']));
$clock('near the record, in few terms', static fn () => $reasoning->local($record, null), 3);
