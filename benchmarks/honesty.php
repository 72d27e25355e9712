<?php

declare(strict_types=1);

/**
 * make honesty [SEARCHES]: on pure noise (300 rows, 200 columns) settings and choices of columns are searched, and features are made; how often
 * does an interval that counts exclude doing nothing? At most 5 % may. Prints the shares, and what the best looked like while searching.
 */
require __DIR__.'/../vendor/autoload.php';

use Dokimos\Core\Figure\Figures;
use Dokimos\Core\Guide\Guided;
use Dokimos\Core\Learners\Learners;
use Dokimos\Core\Prepare\Preparation;
use Dokimos\Core\Random;
use Dokimos\Core\Search\Weigh;
use Dokimos\Core\Search\Winner;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Table;
use Dokimos\Core\Task\Answers;
use Dokimos\Core\Task\Task;
use Dokimos\Core\Validate\ColumnChoice;
use Dokimos\Core\Validate\FoldAnswers;
use Dokimos\Core\Validate\SplitPlan;
use Dokimos\Core\Validate\TrialData;

const ROWS = 300;
const COLUMNS = 200;
const TRIES = 16;
$searches = (int) ($argv[1] ?? 200);
$auc = Figures::ranking(Task::TWO);
$fooled = $guidedFooled = $kept = $ideas = 0;
$looked = $corrected = [];
for ($s = 0; $s < $searches; ++$s) {
    $random = Random::stream($s, 'honesty');
    $share = static fn (): float => $random->getInt(0, 1_000_000) / 1_000_000;
    $columns = [];
    for ($c = 0; $c < COLUMNS; ++$c) {
        $columns["x$c"] = new NumberColumn(array_map(static fn (): float => $share(), range(1, ROWS)));
    }
    $outcome = array_map(static fn (): float => $share() < 0.4 ? 1.0 : 0.0, range(1, ROWS));
    $table = Table::of($columns, ROWS);
    $plan = new SplitPlan(0.0, 5, 1, 2026 + $s);
    $parts = $plan->parts($outcome, range(0, ROWS - 1), 0);
    $folds = [];
    foreach ($parts as $validation) {
        $folds[] = ['validation' => $validation, 'training' => $plan->training($outcome, range(0, ROWS - 1), $validation)];
    }
    // Column choices of ten, each with a setting drawn: a ridge or a small tree.
    $tries = [];
    for ($t = 0; $t < TRIES; ++$t) {
        $names = [];
        while (count($names) < 10) {
            $names['x'.$random->getInt(0, COLUMNS - 1)] = true;
        }
        $learner = 0 === $t % 2 ? Learners::make(
            'logistic',
            ['penalty' => 'ridge', 'price' => 10 ** (2 * $share())],
        ) : Learners::make('tree', ['depth' => $random->getInt(2, 4), 'leaf' => 20]);
        $data = new TrialData($table, $table->names(), $outcome, new Preparation([]), choice: new ColumnChoice(array_keys($names), false));
        $answers = Weigh::of($data, [$learner], $folds)[0]['answers'] ?? null;
        if (null !== $answers) {
            $told = new FoldAnswers(Task::TWO, $outcome, [$answers], [$parts], [array_fill(0, 5, [0.4])], array_fill(0, 5, 0.25));
            $each = array_filter($told->each($auc), is_float(...));
            $tries[] = [array_sum($each) / max(1, count($each)), $told];
        }
    }
    usort($tries, static fn (array $a, array $b): int => $b[0] <=> $a[0]);
    $winner = Winner::of($auc, $tries[0][1]->outcomes(), array_map(static fn (array $t): Answers => $t[1]->firstFilled(), $tries), 2026);
    $plain = $winner->corrected($auc, $tries[0][0]);
    $interval = $tries[0][1]->widened($plain, (float) $plain->value, $auc->ratio, $auc->least, $auc->most);
    $fooled += $interval->low > 0.5 || $interval->high < 0.5 ? 1 : 0;
    $looked[] = $tries[0][0];
    $corrected[] = (float) $interval->value;
    // Every tenth as a guided search: made features, and the judging part.
    if (0 === $s % 10) {
        $few = Table::of(array_slice($columns, 0, 20), ROWS);
        $guided = new Guided($few, $few->names(), $outcome, ['no', 'yes'], null, null, [], $auc, ['logistic', 'tree'], 2026 + $s);
        $weighed = $guided->making(null, null, 6);
        $ideas += count($weighed);
        $kept += count(array_filter($weighed, static fn ($w): bool => $w->kept));
        $candidates = $guided->candidates(6, $weighed);
        $values = array_column($guided->weigh($candidates, 2, $weighed), 'value');
        $best = $guided->families($values, $candidates)[0] ?? null;
        $judged = null === $best ? null : $guided->judged($candidates[$best], $weighed);
        $guidedFooled += null !== $judged && ($judged->low > 0.5 || $judged->high < 0.5) ? 1 : 0;
    }
}
$guidedRuns = (int) ceil($searches / 10);
printf(
    "%d searches of %d tries on noise: the best looked like AUC %.3f on average, %.3f with its luck taken out.\n",
    $searches,
    TRIES,
    array_sum($looked) / $searches,
    array_sum($corrected) / $searches,
);
printf(
    "Counting intervals that exclude doing nothing: %d of %d searches (%.1f %%), %d of %d guided searches; %d of %d made features kept.\n",
    $fooled,
    $searches,
    100 * $fooled / $searches,
    $guidedFooled,
    $guidedRuns,
    $kept,
    $ideas,
);
exit($fooled > 0.05 * $searches ? 1 : 0);
