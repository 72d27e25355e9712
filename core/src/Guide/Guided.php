<?php

declare(strict_types=1);

namespace Dokimos\Core\Guide;

use Dokimos\Core\Decide\ScoringModel;
use Dokimos\Core\Figure\Figure;
use Dokimos\Core\Figure\Sample;
use Dokimos\Core\Learners\Learners;
use Dokimos\Core\Measure\Interval;
use Dokimos\Core\Prepare\Preparation;
use Dokimos\Core\Progress;
use Dokimos\Core\Random;
use Dokimos\Core\Search\Candidate;
use Dokimos\Core\Search\Space;
use Dokimos\Core\Search\Weigh;
use Dokimos\Core\Table\Table;
use Dokimos\Core\Task\Apart;
use Dokimos\Core\Task\Task;
use Dokimos\Core\Validate\FoldFit;
use Dokimos\Core\Validate\Trying;

/**
 * A guided search: what might be made of the columns is weighed on inner folds, learners with drawn settings climb rungs of more and more rows,
 * and the best of each learner is judged on rows that no choice has read. Every part gives the same for the same seed and counts, wherever and in
 * whatever order its pieces run. Definition: docs/methods/guided-search.md.
 */
final readonly class Guided
{
    /** Share of the rows, folds, and share of the tries that go on, of each rung. */
    public const RUNGS = [
        ['rows' => 0.4, 'folds' => 2, 'on' => 0.34],
        ['rows' => 0.7, 'folds' => 3, 'on' => 0.34],
        ['rows' => 1.0, 'folds' => 4, 'on' => 0.0],
    ];
    /** Ideas for every learner, at most. */
    public const IDEAS = 16;
    /** With those for learners that follow a straight line: intervals of gains hold for so many at once. */
    public const ALL_IDEAS = 24;
    /** Of tries, so many have what was made: the others see whether it was worth it. */
    private const PLAIN_EVERY = 4;
    /** Trials handed over at most: the best of each learner. */
    public const FAMILIES = 8;

    /** @var list<int> rows that no choice reads */
    public array $judging;
    /** @var list<int> */
    public array $choosing;
    private Material $material;

    /**
     * @param Table                      $table    the open rows, before preparation
     * @param list<string>               $inputs   raw columns that may serve
     * @param list<float>                $outcome
     * @param ?list<string>              $classes
     * @param ?list<float>               $weights
     * @param list<array<string, mixed>> $steps    of the preparation it begins with
     * @param list<string>               $learners that may be used
     */
    public function __construct(
        Table $table,
        array $inputs,
        array $outcome,
        ?array $classes,
        ?array $weights,
        ?Apart $apart,
        array $steps,
        private Figure $figure,
        public array $learners,
        private int $seed,
    ) {
        $task = null === $classes ? Task::NUMBER : (2 === \count($classes) ? Task::TWO : Task::MORE);
        $known = array_keys(array_filter($outcome, static fn (float $y): bool => !is_nan($y)));
        ['judging' => $this->judging, 'choosing' => $this->choosing] = Judging::divide($task, $outcome, $known, $seed, $apart);
        $this->material = new Material($table, $inputs, $outcome, $classes, $weights, $apart, $steps, $this->choosing);
    }

    /**
     * The learners that a guided search may use for a task, in the order of the catalogue.
     *
     * @param list<string> $without
     *
     * @return list<string>
     */
    public static function learnersFor(string $task, array $without = []): array
    {
        $names = [];
        foreach (Learners::all() as $about) {
            if (null !== Learners::card($about->name)->searched && \in_array($task, $about->tasks, true) && !\in_array($about->name, $without, true)) {
                $names[] = $about->name;
            }
        }

        return $names;
    }

    /**
     * What might be made of the columns, each weighed in company of those kept before it.
     *
     * @param ?\Closure(): bool $goesOn asked before each idea; null = all are weighed
     *
     * @return list<Weighed>
     */
    public function making(?Progress $progress = null, ?\Closure $goesOn = null, int $most = self::ALL_IDEAS): array
    {
        $straight = [] !== array_filter($this->learners, static fn (string $l): bool => null !== Learners::card($l)->straight);

        return (new Making($this->material, $this->figure, $straight, $this->seed))->weighed($progress, $goesOn, $most);
    }

    /**
     * The steps that a try is prepared with.
     *
     * @param int           $variant 0 = as it began, 1 = with what was made for all, 2 = with what was made for straight lines too
     * @param list<Weighed> $weighed
     *
     * @return list<array<string, mixed>>
     */
    public function stepsOf(int $variant, array $weighed): array
    {
        return $this->material->steps(array_values(array_map(
            static fn (Weighed $w): Idea => $w->idea,
            array_filter($weighed, static fn (Weighed $w): bool => $w->kept && $variant >= (Weighed::ALL === $w->for ? 1 : 2)),
        )));
    }

    /**
     * What is weighed on the first rung: each learner once with its usual settings, then drawn ones, learner by learner in turn.
     *
     * @param list<Weighed> $weighed
     *
     * @return list<Candidate> of the variants of stepsOf()
     */
    public function candidates(int $tries, array $weighed): array
    {
        $random = Random::stream($this->seed, 'guided search');
        $for = array_map(static fn (Weighed $w): string => $w->for, array_filter($weighed, static fn (Weighed $w): bool => $w->kept));
        $made = \in_array(Weighed::ALL, $for, true) ? 1 : 0;
        $straight = \in_array(Weighed::STRAIGHT, $for, true) ? 2 : $made;
        $variants = array_map(static fn (string $l): int => null === Learners::card($l)->straight ? $made : $straight, $this->learners);
        $count = \count($this->learners);
        $spaces = array_map(static fn (string $l): Space => Space::of($l, self::ranges($l)), $this->learners);
        $out = [];
        for ($i = 0; $i < $tries && $count > 0; ++$i) {
            $space = $i % $count;
            $turn = intdiv($i, $count);
            $settings = 0 === $turn ? $spaces[$space]->fixed : $spaces[$space]->draw($random);
            $out[] = new Candidate($space, self::PLAIN_EVERY - 1 !== $turn % self::PLAIN_EVERY ? $variants[$space] : 0, 0, $settings);
        }

        return $out;
    }

    /** @return array<string, mixed> */
    private static function ranges(string $learner): array
    {
        return Learners::card($learner)->searched ?? [];
    }

    /**
     * Tries of the same preparation, weighed on a rung.
     *
     * @param non-empty-list<Candidate> $tries
     * @param list<Weighed>             $weighed
     *
     * @return list<array{value: ?float, why: ?string, seconds: float, reading: ?int}>
     */
    public function weigh(array $tries, int $rung, array $weighed, ?Progress $progress = null): array
    {
        $data = $this->material->prepared($this->stepsOf($tries[0]->variant, $weighed));
        $rows = $data->some($this->choosing, (int) ceil(self::RUNGS[$rung]['rows'] * \count($this->choosing)));
        $folds = Judging::crossed(Judging::folds(
            $this->material->task,
            $this->material->outcome,
            $rows,
            self::RUNGS[$rung]['folds'],
            $this->seed,
            $this->material->apart,
            'rung '.$rung,
        ));
        $learners = array_map(fn (Candidate $c) => Learners::make($this->learners[$c->space], $c->settings), $tries);
        $out = [];
        foreach (Weigh::of($data, $learners, $folds, $progress) as $one) {
            $values = [];
            $answers = $one['answers'];
            foreach ($folds as $fold) {
                if (null === $answers) {
                    break;
                }
                $outcome = $this->material->outcomesOf($fold['validation']);
                $weights = $this->material->weightsOf($fold['validation']);
                $values[] = $this->figure->value($outcome, $answers->take($fold['validation']), $weights);
            }
            $known = array_values(array_filter($values, is_float(...)));
            $out[] = [
                'value' => [] === $known ? null : array_sum($known) / \count($known),
                'why' => $one['why'],
                'seconds' => $one['seconds'],
                'reading' => $one['reading'],
            ];
        }

        return $out;
    }

    /**
     * Which tries of a rung climb to the next: the best third, and the best of each learner.
     *
     * @param array<int, ?float>    $values by place
     * @param array<int, Candidate> $tries  by place
     * @param ?int                  $most   no more than so many, where time runs out
     *
     * @return list<int> places, best first
     */
    public function survivors(array $values, array $tries, int $rung, ?int $most = null): array
    {
        $known = array_filter($values, is_float(...));
        $order = array_keys($known);
        usort($order, fn (int $a, int $b): int => $this->figure->order($known[$a], $known[$b]) ?: $a <=> $b);
        $wanted = max(1, min($most ?? \PHP_INT_MAX, (int) ceil(self::RUNGS[$rung]['on'] * \count($values))));
        $out = [];
        $families = [];
        foreach ($order as $rank => $place) {
            $first = !isset($families[$tries[$place]->space]);
            if ($rank < $wanted || $first) {
                $out[] = $place;
                $families[$tries[$place]->space] = true;
            }
        }

        return $out;
    }

    /**
     * The best of each learner, best first.
     *
     * @param array<int, ?float>    $values of the highest rung that was reached, by place
     * @param array<int, Candidate> $tries
     *
     * @return list<int> places
     */
    public function families(array $values, array $tries): array
    {
        $known = array_filter($values, is_float(...));
        $order = array_keys($known);
        usort($order, fn (int $a, int $b): int => $this->figure->order($known[$a], $known[$b]) ?: $a <=> $b);
        $out = [];
        foreach ($order as $place) {
            $out[$tries[$place]->space] ??= $place;
        }

        return \array_slice(array_values($out), 0, self::FAMILIES);
    }

    /**
     * The figure that counts: of a model fitted on all rows that choices were made on, judged on those that none has read.
     *
     * @param list<Weighed> $weighed
     */
    public function judged(Candidate $try, array $weighed, ?Progress $progress = null): Interval
    {
        $fold = $this->material->prepared($this->stepsOf($try->variant, $weighed))->prepared($this->choosing, $this->judging);
        $answers = FoldFit::of($fold, Learners::make($this->learners[$try->space], $try->settings), $progress)->answers();
        $outcome = $this->material->outcomesOf($this->judging);
        $weights = $this->material->weightsOf($this->judging);
        $sample = Sample::known($outcome, $answers, $weights, false);

        return null === $sample ? new Interval(null) : $this->figure->interval($sample) ?? new Interval(null);
    }

    /**
     * The winner, fitted on all open rows, ready for use.
     *
     * @param list<Weighed> $weighed
     */
    public function whole(Candidate $try, array $weighed, string $target, string $event): ScoringModel
    {
        $steps = Preparation::fromArray($this->stepsOf($try->variant, $weighed));

        $material = $this->material;

        return (new Trying(
            $material->table,
            $material->inputs,
            $material->outcome,
            $steps,
            Learners::make($this->learners[$try->space], $try->settings),
            $material->classes,
            $material->weights,
            $material->apart,
        ))->whole($target, $event);
    }
}
