<?php

declare(strict_types=1);

/**
 * make nearness: how near each learner, with its settings as they are, comes to the best AUC that can be reached on 6,000 visits of the
 * demo, and on visits of another seed: as the columns are, with the note read as words, with slot and channel together, and with both.
 * Five folds, the mean of their AUC; the best is that of the true chances on the same folds. Writes docs/benchmarks-nearness.md.
 *
 * nearness.php [SEED...] [--learner=NAME] [--settings=JSON]   with either option it prints and writes nothing; other
 * settings are tried on the columns as they are
 */
require __DIR__.'/../vendor/autoload.php';
require __DIR__.'/search/Problem.php';
require __DIR__.'/search/Problems.php';

use App\Demo\VisitGenerator;
use Dokimos\Benchmarks\Search\Problems;
use Dokimos\Core\Learners\Learners;
use Dokimos\Core\Measure\BinaryScores;
use Dokimos\Core\Prepare\Preparation;
use Dokimos\Core\Search\Weigh;
use Dokimos\Core\Task\Task;
use Dokimos\Core\Validate\SplitPlan;
use Dokimos\Core\Validate\TrialData;

ini_set('memory_limit', '3G');
$seeds = [];
$only = $given = null;
foreach (array_slice($argv, 1) as $word) {
    match (true) {
        str_starts_with($word, '--learner=') => $only = substr($word, 10),
        str_starts_with($word, '--settings=') => $given = json_decode(substr($word, 11), true, flags: \JSON_THROW_ON_ERROR),
        default => $seeds[] = (int) $word,
    };
}
$fill = [['step' => 'fill_missing', 'columns' => ['boiler_age'], 'method' => 'median', 'mark' => true]];
$words = [['step' => 'text_terms', 'column' => 'booking_note']];
$pair = [['step' => 'interact', 'column' => 'slot', 'how' => 'pairs of values', 'other' => 'contact_channel']];
$ways = [
    'as the columns are' => $fill,
    'note as words' => [...$fill, ...$words],
    'slot with channel' => [...$fill, ...$pair],
    'both' => [...$fill, ...$words, ...$pair],
];

/** Mean over folds of the AUC of what is answered there. */
$auc = static fn (array $folds, array $outcome, array $answers): float => array_sum(array_map(
    static fn (array $f): float => (float) (new BinaryScores(
        array_map(static fn (int $r): float => $outcome[$r], $f['validation']),
        array_map(static fn (int $r): float => is_nan($answers[$r]) ? 0.1 : $answers[$r], $f['validation']),
    ))->auc(),
    $folds,
)) / count($folds);

if (null !== $given) {
    $ways = array_slice($ways, 0, 1);
}
$text = '';
foreach ([] === $seeds ? [2026, 77] : $seeds as $seed) {
    $visits = Problems::demo($seed);
    $truth = array_map(
        static fn (array $t): float => $t[0],
        iterator_to_array(VisitGenerator::forPart($seed, 'visits')->truth($visits->table->rows), false),
    );
    $plan = new SplitPlan(0.0, 5, 1, 2026);
    $all = range(0, $visits->table->rows - 1);
    $folds = array_map(
        static fn (array $part): array => ['validation' => $part, 'training' => $plan->training($visits->outcome, $all, $part)],
        $plan->parts($visits->outcome, $all, 0),
    );
    $best = $auc($folds, $visits->outcome, $truth);
    $said = sprintf("Seed %d: the best AUC that can be reached is %.3f.\n\n| Learner |", $seed, $best);
    $said .= implode('', array_map(static fn (string $w): string => " $w |", array_keys($ways)));
    $said .= "\n|---|".str_repeat('---:|', count($ways))."\n";
    echo $said;
    $text .= "## $said";
    foreach (Learners::all() as $about) {
        $is = in_array(Task::TWO, $about->tasks, true) && Learners::withoutColumns() !== $about->name;
        if (!$is || ($only ?? $about->name) !== $about->name) {
            continue;
        }
        $line = '| '.$about->title.' |';
        foreach ($ways as $steps) {
            $data = new TrialData($visits->table, $visits->table->names(), $visits->outcome, Preparation::fromArray($steps));
            [$weighed] = Weigh::of($data, [Learners::make($about->name, $given ?? [])], $folds);
            if (null !== $weighed['why']) {
                fwrite(\STDERR, $about->title.': '.$weighed['why']."\n");
            }
            $answers = $weighed['answers']?->values;
            $line .= null === $answers ? ' - |' : sprintf(' %.3f |', $auc($folds, $visits->outcome, $answers));
        }
        echo $line .= "\n";
        $text .= $line;
    }
    echo "\n";
    $text .= "\n";
}
if (null === $only && null === $given) {
    file_put_contents(
        dirname(__DIR__).'/docs/benchmarks-nearness.md',
        "# How near each learner comes on the demo\n\nMade by `make nearness` on ".date('j M Y').
        '. 6,000 visits, settings as they are, mean AUC of five folds; the best is what the true chances reach on the same folds.'
        .' *Note as words*: the step "Words of a text" as it comes; *slot with channel*: "Combine two columns" as pairs of values.'
        ." What the preparation brings is larger than what lies between learners: a newcomer should begin there.\n\n".$text,
    );
}
