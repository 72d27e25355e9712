<?php

declare(strict_types=1);

/**
 * Whether the return of a list lies where it is said to: 500 made months of the demo, each with 400 bookings scored by one model that was
 * fitted to 6,000 visits, 120 calls by expected return, outcomes by the true chances, and a true effect of calling within the stated range.
 * And whether a measured effect outside it is noticed (make coverage, fifth part).
 */
require __DIR__.'/../../vendor/autoload.php';
require __DIR__.'/Report.php';

use App\Demo\VisitGenerator;
use Dokimos\Benchmarks\Report;
use Dokimos\Core\Act\ActionList;
use Dokimos\Core\Act\Capacity;
use Dokimos\Core\Act\ComparisonGroup;
use Dokimos\Core\Act\Economics;
use Dokimos\Core\Act\EventTerms;
use Dokimos\Core\Act\MeasuredEffect;
use Dokimos\Core\Act\ReturnDraws;
use Dokimos\Core\Calibrate\Sigmoid;
use Dokimos\Core\Format\CsvFile;
use Dokimos\Core\Learners\Learners;
use Dokimos\Core\Prepare\Preparation;
use Dokimos\Core\Table\Kind;
use Dokimos\Core\Table\Table;
use Dokimos\Core\Validate\SplitPlan;
use Dokimos\Core\Validate\Trying;

const POOL = 20000;
const WORKS = [0.26, 0.46];
$months = (int) ($argv[1] ?? 500);
$r = new Report('returns');
$read = static function (int $rows, int $seed): Table {
    $file = tempnam(sys_get_temp_dir(), 'dokimos-returns-').'.csv';
    file_put_contents($file, implode('', iterator_to_array(VisitGenerator::forPart($seed, 'visits')->visits($rows), false)));
    [$table] = (new CsvFile($file))->read(['boiler_class' => Kind::Category]);
    unlink($file);

    return $table;
};
[$own, $pool] = [$read(6000, 2026), $read(POOL, 77)];
$truth = array_map(static fn (array $t): float => $t[0], iterator_to_array(VisitGenerator::forPart(77, 'visits')->truth(POOL), false));
$outcome = [];
for ($i = 0; $i < $own->rows; ++$i) {
    $outcome[] = 'yes' === $own->column('return_visit')->text($i) ? 1.0 : 0.0;
}
$names = [
    'days_ahead',
    'slot',
    'job_type',
    'boiler_class',
    'boiler_age',
    'tenure',
    'contact_channel',
    'reminder_sent',
    'past_returns',
    'travel_km',
];
foreach (['logistic' => ['missing' => 'fill and mark'], 'boosting' => ['trees' => 120]] as $learner => $settings) {
    $trying = new Trying($own, $names, $outcome, new Preparation([]), Learners::make($learner, $settings), ['no', 'yes']);
    $plan = new SplitPlan(0.0, 5, 1, 2026);
    $all = array_keys($outcome);
    $said = [];
    foreach ($plan->parts($outcome, $all, 0) as $validation) {
        $answers = $trying->fold($validation, $plan->training($outcome, $all, $validation))['answers'];
        foreach ($validation as $k => $row) {
            $said[$row] = $answers->first($k);
        }
    }
    ksort($said);
    $holds = Sigmoid::fit($outcome, array_values($said));
    $model = $trying->whole('return_visit', 'yes');
    $chances = $model->answers($model->select($pool, $model->byName()))->values;
    $costs = $pool->number('quoted_cost')->values;
    $within = $noticed = $false = 0;
    for ($m = 0; $m < $months; ++$m) {
        $rows = array_map(static fn (int $k): int => $r->whole(0, POOL - 1), range(1, 400));
        $terms = new EventTerms(
            array_map(static fn (int $i): float => $chances[$i], $rows),
            array_map(static fn (int $i): float => max(0.0, $costs[$i]), $rows),
            new Economics(6.5, 0.36, 0.7),
        );
        $list = ActionList::of($terms)->chosen(new Capacity(120));
        $works = WORKS[0] + (WORKS[1] - WORKS[0]) * $r->share();
        $return = 0.0;
        foreach ($list as $k) {
            $prevented = $r->share() < $truth[$rows[$k]] && $r->share() < $works;
            $return += ($prevented ? 0.7 * $terms->values[$k] : 0.0) - 6.5;
        }
        $drawn = ReturnDraws::of($terms, $list, WORKS, $holds, $m);
        $within += $return >= $drawn->low && $return <= $drawn->high ? 1 : 0;
        // A long list, half of it left untouched: once calling does nothing at all, once what was thought.
        foreach ([0.0, 0.36] as $true) {
            $long = array_map(static fn (int $k): int => $r->whole(0, POOL - 1), range(1, 3000));
            $left = array_fill_keys(
                ComparisonGroup::drawn(array_keys($long), 0.5, new Capacity(), static fn (int $k): string => (string) $k, $m),
                true,
            );
            $counts = [0, 0];
            foreach ($long as $k => $i) {
                $event = $r->share() < $truth[$i] && (isset($left[$k]) || $r->share() >= $true);
                $counts[isset($left[$k]) ? 1 : 0] += $event ? 1 : 0;
            }
            $effect = MeasuredEffect::of(3000 - count($left), $counts[0], count($left), $counts[1]);
            0.0 === $true ? $noticed += $effect->contradicts(WORKS) ? 1 : 0 : $false += $effect->contradicts(WORKS) ? 1 : 0;
        }
    }
    $r->line("$learner: return of a month within the interval of 90 %", $within / $months, 0.86, 0.94);
    $r->line("$learner: calling does nothing, and the measured effect says so", $noticed / $months, 0.8, 1.0);
    $r->line("$learner: calling does what was thought, and a warning comes", $false / $months, 0.0, 0.05);
}
$r->end();
