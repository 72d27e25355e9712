<?php

declare(strict_types=1);

/**
 * make bench-search: what a guided search reaches on the demo, the reference's quality cases and six made problems of known truth, judged
 * on
 * fresh rows, beside the best learner as it comes and beside a long random search of the same learners by folds. Results are kept in
 * var/bench-search as they come, so that it goes on where it was stopped; the long search adds to what it has.
 *
 * search.php [--tries=N] [--seeds=N] [--long=SECONDS] [PROBLEM...]
 */
require __DIR__.'/../vendor/autoload.php';
require __DIR__.'/search/Problem.php';
require __DIR__.'/search/Problems.php';

use Dokimos\Benchmarks\Search\Problem;
use Dokimos\Benchmarks\Search\Problems;
use Dokimos\Core\Decide\ScoringModel;
use Dokimos\Core\Figure\Figure;
use Dokimos\Core\Figure\Figures;
use Dokimos\Core\Figure\Sample;
use Dokimos\Core\Guide\Guided;
use Dokimos\Core\Guide\Weighed;
use Dokimos\Core\Learners\Learners;
use Dokimos\Core\Prepare\Preparation;
use Dokimos\Core\Random;
use Dokimos\Core\Search\Space;
use Dokimos\Core\Search\Weigh;
use Dokimos\Core\Task\Answers;
use Dokimos\Core\Task\Task;
use Dokimos\Core\Validate\SplitPlan;
use Dokimos\Core\Validate\TrialData;
use Dokimos\Core\Validate\Trying;

$options = ['tries' => 60, 'seeds' => 1, 'long' => 0];
$wanted = [];
foreach (array_slice($argv, 1) as $word) {
    preg_match('/^--(tries|seeds|long)=(\d+)$/', $word, $m) ? $options[$m[1]] = (int) $m[2] : $wanted[] = $word;
}
$root = dirname(__DIR__);
$folder = $root.'/var/bench-search';
is_dir($folder) || mkdir($folder, 0777, true);

/** Does it once and keeps it. */
$once = static function (string $key, Closure $do) use ($folder): array {
    $file = "$folder/$key.json";
    if (is_file($file)) {
        return json_decode((string) file_get_contents($file), true, 512, \JSON_THROW_ON_ERROR);
    }
    $begun = microtime(true);
    $done = $do() + ['seconds' => microtime(true) - $begun];
    file_put_contents($file, json_encode($done, \JSON_THROW_ON_ERROR | \JSON_PRESERVE_ZERO_FRACTION));

    return $done;
};
$guided = static fn (Problem $p, Figure $figure, int $seed): Guided => new Guided(
    $p->table,
    $p->table->names(),
    $p->outcome,
    $p->classes,
    null,
    null,
    [],
    $figure,
    Guided::learnersFor(kind($p)),
    $seed,
);

function kind(Problem $p): string
{
    return null === $p->classes ? Task::NUMBER : (2 === count($p->classes) ? Task::TWO : Task::MORE);
}

/** Answers for the fresh rows. */
function fresh(Problem $p, ScoringModel $model): Answers
{
    return $model->answers($model->select($p->fresh, $model->byName()));
}

/** @param list<array<string, mixed>> $steps */
function whole(Problem $p, array $steps, string $learner, array $settings): Answers
{
    return fresh(
        $p,
        (new Trying(
            $p->table,
            $p->table->names(),
            $p->outcome,
            Preparation::fromArray($steps),
            Learners::make($learner, $settings),
            $p->classes,
        ))->whole('target', 'yes'),
    );
}

/** Whether shuffling the planted column among the fresh rows costs more than noise. */
function leans(Problem $p, Figure $figure, ScoringModel $model, Answers $answers): bool
{
    $name = $p->planted[0];
    $order = Random::stream(7, 'shuffled')->shuffleArray(range(0, $p->fresh->rows - 1));
    $shuffled = $p->fresh->with($name, $p->fresh->column($name)->take($order));
    $other = $model->answers($model->select($shuffled, $model->byName()));
    [$lost, $error] = $figure->difference(new Sample($p->truth, $answers), new Sample($p->truth, $other)) ?? [0.0, 1.0];

    return ($figure->more ? $lost : -$lost) > 3 * $error;
}

$rows = [];
foreach (Problems::all(getenv('DOKIMOS_REFERENCE') ?: $root.'/../shared/reference') as $name => $make) {
    if ([] !== $wanted && !in_array($name, $wanted, true)) {
        continue;
    }
    /** @var ?Problem $problem made only where something is still to be done */
    $problem = null;
    $of = static function () use (&$problem, $make): Problem {
        return $problem ??= $make();
    };
    $usual = $once("$name-usual", static function () use ($of, $guided): array {
        $p = $of();
        $figure = Figures::ranking(kind($p));
        $steps = $guided($p, $figure, 1)->stepsOf(0, []);
        $values = $answers = [];
        foreach (Guided::learnersFor(kind($p)) as $learner) {
            $own = whole($p, $steps, $learner, []);
            $values[$learner] = $figure->value($p->truth, $own);
            $answers[$learner] = $own->values;
        }
        uasort($values, static fn (?float $a, ?float $b): int => $figure->order($a, $b));
        $best = (string) array_key_first($values);

        return [
            'figure' => $figure->key,
            'values' => $values,
            'best' => $best,
            'answers' => base64_encode(gzdeflate(pack('e*', ...$answers[$best]))),
        ];
    });
    for ($s = 0; $s < $options['seeds']; ++$s) {
        $seed = 2026 + $s;
        $told = $once("$name-guided-{$options['tries']}-$seed", static function () use ($of, $guided, $usual, $options, $seed): array {
            $p = $of();
            $figure = Figures::ranking(kind($p));
            $search = $guided($p, $figure, $seed);
            $weighed = $search->making();
            $tries = $search->candidates($options['tries'], $weighed);
            $places = array_keys($tries);
            $values = [];
            for ($rung = 0; $rung < count(Guided::RUNGS); ++$rung) {
                $values = [];
                foreach ([0, 1, 2] as $variant) {
                    $own = array_values(array_filter($places, static fn (int $k): bool => $tries[$k]->variant === $variant));
                    foreach ([] === $own ? [] : $search->weigh(
                        array_map(static fn (int $k) => $tries[$k], $own),
                        $rung,
                        $weighed,
                    ) as $i => $one) {
                        $values[$own[$i]] = $one['value'];
                    }
                }
                $places = $search->survivors($values, $tries, $rung);
            }
            $best = $tries[$search->families($values, $tries)[0]];
            $answers = fresh($p, $search->whole($best, $weighed, 'target', 'yes'));
            $first = new Sample($p->truth, $answers);
            $other = new Answers(array_values(unpack('e*', gzinflate((string) base64_decode($usual['answers'], true)))), $answers->width);
            $kept = array_values(array_filter($weighed, static fn (Weighed $w): bool => $w->kept));
            $named = array_values(array_unique(array_merge(...array_map(static fn (Weighed $w): array => $w->idea->of, $kept))));

            return [
                'value' => $figure->value($p->truth, $answers),
                'judged' => $search->judged($best, $weighed)->toArray(),
                'learner' => $search->learners[$best->space],
                'settings' => $best->settings,
                'kept' => array_map(static fn (Weighed $w): string => $w->idea->from, $kept),
                'difference' => $figure->difference($first, new Sample($p->truth, $other)),
                'found' => [] === $p->planted ? null : (1 < count($p->planted) ? [] === array_diff($p->planted, $named) : leans(
                    $p,
                    $figure,
                    $search->whole($best, $weighed, 'target', 'yes'),
                    $answers,
                )),
            ];
        });
        $rows[$name]['guided'][] = $told;
    }
    $rows[$name]['usual'] = $usual;
    // The long search: whatever it had is taken up, and drawn on.
    $file = "$folder/$name-long.json";
    $long = is_file($file) ? json_decode(
        (string) file_get_contents($file),
        true,
        512,
        \JSON_THROW_ON_ERROR,
    ) : ['tries' => 0, 'seconds' => 0.0, 'best' => null];
    if ($long['seconds'] < $options['long']) {
        $p = $of();
        $figure = Figures::ranking(kind($p));
        $steps = $guided($p, $figure, 1)->stepsOf(0, []);
        $plan = new SplitPlan(0.0, 5, 1, 2026);
        $all = array_keys($p->outcome);
        $folds = array_map(
            static fn (array $v): array => ['validation' => $v, 'training' => $plan->training($p->outcome, $all, $v)],
            $plan->parts($p->outcome, $all, 0),
        );
        $data = new TrialData($p->table, $p->table->names(), $p->outcome, Preparation::fromArray($steps), $p->classes);
        $learners = Guided::learnersFor(kind($p));
        while ($long['seconds'] < $options['long']) {
            $begun = microtime(true);
            $learner = $learners[$long['tries'] % count($learners)];
            $settings = Space::of($learner, Learners::card($learner)->searched ?? [])->draw(Random::stream($long['tries'], 'long search'));
            $one = Weigh::of($data, [Learners::make($learner, $settings)], $folds)[0];
            $value = null === $one['answers'] ? null : $figure->value($p->outcome, $one['answers']);
            if (null !== $value && (null === $long['best'] || $figure->order($value, $long['best']['value']) < 0)) {
                $long['best'] = ['value' => $value, 'learner' => $learner, 'settings' => $settings];
            }
            ++$long['tries'];
            $long['seconds'] += microtime(true) - $begun;
            file_put_contents($file, json_encode($long, \JSON_THROW_ON_ERROR | \JSON_PRESERVE_ZERO_FRACTION));
        }
        $long['fresh'] = $figure->value($p->truth, whole($p, $steps, $long['best']['learner'], $long['best']['settings']));
        file_put_contents($file, json_encode($long, \JSON_THROW_ON_ERROR | \JSON_PRESERVE_ZERO_FRACTION));
    }
    $rows[$name]['long'] = $long;
}
$text = sprintf(
    "%-20s %-9s %-24s %-32s %-26s %8s  %s\n",
    'problem',
    'figure',
    'best as it comes',
    'guided search (median of seeds)',
    'less the best as it comes',
    'long',
    'kept',
);
foreach ($rows as $name => $r) {
    $figure = null;
    foreach ([Task::TWO, Task::MORE, Task::NUMBER] as $task) {
        $figure = Figures::ranking($task)->key === $r['usual']['figure'] ? Figures::ranking($task) : $figure;
    }
    $all = $r['guided'];
    usort($all, static fn (array $a, array $b): int => $a['value'] <=> $b['value']);
    $middle = $all[intdiv(count($all), 2)];
    [$d, $e] = $middle['difference'] ?? [0.0, 0.0];
    $text .= sprintf(
        "%-20s %-9s %-24s %-32s %-26s %8s  %s%s\n",
        $name,
        $figure->name,
        sprintf('%s %.4f', $r['usual']['best'], $r['usual']['values'][$r['usual']['best']]),
        sprintf(
            '%s %.4f (%d seed%s, %.0f s)',
            $middle['learner'],
            $middle['value'],
            count($all),
            1 === count($all) ? '' : 's',
            $middle['seconds'],
        ),
        sprintf('%+.4f (%+.4f to %+.4f)', $d, $d - 1.96 * $e, $d + 1.96 * $e),
        isset($r['long']['fresh']) ? sprintf('%.4f', $r['long']['fresh']) : '–',
        null === $middle['found'] ? '' : ($middle['found'] ? 'FOUND ' : 'not found ').'',
        implode('; ', $middle['kept']),
    );
}
echo $text;
if ([] === $wanted) {
    file_put_contents(
        $root.'/docs/benchmarks-search.md',
        "# What a guided search reaches\n\nMade by `make bench-search` on ".date('j M Y').' with PHP '.\PHP_VERSION.", one process. {$options['tries']} tries on the first rung; judged on fresh rows; the long search is random, of the same learners by five folds, without made features; its seconds are in the note.\n\n```text\n".$text."```\n",
    );
}
