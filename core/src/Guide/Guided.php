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
use Dokimos\Core\Refusal;
use Dokimos\Core\Search\Candidate;
use Dokimos\Core\Search\Space;
use Dokimos\Core\Search\Weigh;
use Dokimos\Core\Table\Kind;
use Dokimos\Core\Table\Table;
use Dokimos\Core\Task\Answers;
use Dokimos\Core\Task\Apart;
use Dokimos\Core\Task\Task;
use Dokimos\Core\Validate\Comparison;
use Dokimos\Core\Validate\FoldFit;
use Dokimos\Core\Validate\TrialData;
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
    /** Ideas weighed at most: intervals of gains hold for so many at once. */
    public const IDEAS = 16;
    private const ROUNDS = 3;
    private const IDEAS_OF_A_ROUND = 4;
    private const FOLDS = 4;
    /** Of tries, so many have what was made: the others see whether it was worth it. */
    private const PLAIN_EVERY = 4;
    /** Trials handed over at most: the best of each learner. */
    public const FAMILIES = 8;

    /** @var list<int> rows that no choice reads */
    public array $judging;
    /** @var list<int> */
    public array $choosing;
    private string $task;

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
        private Table $table,
        private array $inputs,
        private array $outcome,
        private ?array $classes,
        private ?array $weights,
        private ?Apart $apart,
        private array $steps,
        private Figure $figure,
        public array $learners,
        private int $seed,
    ) {
        $this->task = null === $classes ? Task::NUMBER : (2 === \count($classes) ? Task::TWO : Task::MORE);
        $known = array_keys(array_filter($outcome, static fn (float $y): bool => !is_nan($y)));
        ['judging' => $this->judging, 'choosing' => $this->choosing] = Judging::divide($this->task, $outcome, $known, $seed, $apart);
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

    /** @return list<array<string, mixed>> the steps it begins with: the preparation's, and what fills the cells that it leaves missing */
    public function begins(): array
    {
        $prepared = $this->data($this->steps)->prepared($this->choosing);
        $missing = [];
        foreach ($prepared->task->inputs as $name) {
            $column = $prepared->task->table->column($name);
            foreach ($this->choosing as $row) {
                if ($column->isMissing($row)) {
                    $missing[$column->kind()->value] = true;
                    break;
                }
            }
        }
        $fills = [];
        if (isset($missing[Kind::Number->value])) {
            $fills[] = [
                'step' => 'fill_missing',
                'columns' => [],
                'choose' => ['kinds' => [Kind::Number->value], 'missing' => true],
                'method' => 'median',
                'mark' => true,
            ];
        }
        foreach ([Kind::Category, Kind::YesNo] as $kind) {
            if (isset($missing[$kind->value])) {
                $fills[] = [
                    'step' => 'fill_missing',
                    'columns' => [],
                    'choose' => ['kinds' => [$kind->value], 'missing' => true],
                    'method' => 'most frequent',
                    'mark' => false,
                ];
            }
        }

        return [...$this->steps, ...$fills];
    }

    /** @param list<array<string, mixed>> $steps */
    private function data(array $steps): TrialData
    {
        return new TrialData(
            $this->table,
            $this->inputs,
            $this->outcome,
            Preparation::fromArray($steps),
            $this->classes,
            $this->weights,
            $this->apart,
        );
    }

    /**
     * What might be made of the columns, each weighed in company of those kept before it.
     *
     * @param ?\Closure(): bool $goesOn asked before each idea; null = all are weighed
     *
     * @return list<Weighed>
     */
    public function making(?Progress $progress = null, ?\Closure $goesOn = null, int $most = self::IDEAS): array
    {
        $scout = Learners::scout($this->task);
        $folds = Judging::crossed(Judging::folds(
            $this->task,
            $this->outcome,
            $this->choosing,
            self::FOLDS,
            $this->seed,
            $this->apart,
            'making',
        ));
        $steps = $this->begins();
        $weighed = [];
        $current = Weigh::of($this->data($steps), [$scout], $folds)[0]['answers'] ?? null;
        if (null === $current) {
            return [];
        }
        for ($round = 0; $round < self::ROUNDS; ++$round) {
            $ideas = 0 === $round ? Ideas::ofSingles($this->table, $this->usable($steps)) : $this->pairs($steps, $current, $weighed);
            foreach ($ideas as $idea) {
                if (\count($weighed) >= $most || (null !== $goesOn && !$goesOn())) {
                    return $weighed;
                }
                $progress?->report(\count($weighed) / $most, $idea->name);
                $tried = $this->gain($idea, [...$steps, ...$idea->steps], $current, $folds);
                $weighed[] = $tried[0];
                if ($tried[0]->kept && null !== $tried[1]) {
                    $steps = [...$steps, ...$idea->steps];
                    $current = $tried[1];
                }
            }
        }

        return $weighed;
    }

    /**
     * @param list<array<string, mixed>>                              $steps
     * @param list<array{validation: list<int>, training: list<int>}> $folds
     *
     * @return array{Weighed, ?Answers}
     */
    private function gain(Idea $idea, array $steps, Answers $current, array $folds): array
    {
        try {
            $with = Weigh::of($this->data($steps), [Learners::scout($this->task)], $folds)[0];
        } catch (Refusal $e) {
            return [new Weighed($idea, null, null, null, false, $e->getMessage()), null];
        }
        if (null === $with['answers']) {
            return [new Weighed($idea, null, null, null, false, $with['why']), null];
        }
        $outcome = array_map(fn (int $r): float => $this->outcome[$r], $this->choosing);
        $weights = $this->weightsOf($this->choosing);
        $test = Comparison::ofRows(
            $this->figure,
            $outcome,
            $with['answers']->take($this->choosing),
            $current->take($this->choosing),
            $weights,
            self::IDEAS,
        );
        if (null === $test) {
            return [new Weighed($idea, null, null, null, false, 'The figure is not defined on these rows.'), null];
        }
        [$gain, $low, $high] = $this->figure->more ? [$test->difference, $test->low, $test->high] : [
            -$test->difference,
            null === $test->high ? null : -$test->high,
            null === $test->low ? null : -$test->low,
        ];

        return [new Weighed($idea, $gain, $low, $high, null !== $low && $low > 0.0), $with['answers']];
    }

    /**
     * @param list<array<string, mixed>> $steps
     * @param list<Weighed>              $weighed
     *
     * @return list<Idea>
     */
    private function pairs(array $steps, Answers $current, array $weighed): array
    {
        $fold = $this->data($steps)->prepared($this->choosing);
        $names = array_values(array_filter($fold->task->inputs, fn (string $n): bool => $this->table->has($n)));
        $rows = array_values(array_filter($this->choosing, static fn (int $r): bool => $current->isKnown($r)));

        return Ideas::ofPairs(
            $fold->task->table,
            $names,
            $rows,
            $this->leftOver($rows, $current),
            array_map(static fn (Weighed $w): string => $w->idea->name, $weighed),
            self::IDEAS_OF_A_ROUND,
        );
    }

    /**
     * What the answers leave over: outcome less answer; of several classes of each of the two most frequent.
     *
     * @param list<int> $rows
     *
     * @return list<list<float>>
     */
    private function leftOver(array $rows, Answers $answers): array
    {
        if (1 === $answers->width) {
            return [array_map(fn (int $r): float => $this->outcome[$r] - $answers->values[$r], $rows)];
        }
        $counts = array_count_values(array_map(fn (int $r): int => (int) $this->outcome[$r], $rows));
        arsort($counts);

        return array_map(
            fn (int $class): array => array_map(
                fn (int $r): float => ((int) $this->outcome[$r] === $class ? 1.0 : 0.0) - $answers->ofClass($r, $class),
                $rows,
            ),
            \array_slice(array_keys($counts), 0, 2),
        );
    }

    /**
     * Raw columns that are there after the steps, whatever their kind.
     *
     * @param list<array<string, mixed>> $steps
     *
     * @return list<string>
     */
    private function usable(array $steps): array
    {
        $names = $this->data($steps)->prepared($this->choosing)->task->table->names();

        return array_values(array_filter($this->inputs, static fn (string $n): bool => \in_array($n, $names, true)));
    }

    /**
     * The steps that a try is prepared with.
     *
     * @param list<Weighed> $weighed
     *
     * @return list<array<string, mixed>>
     */
    public function stepsOf(int $variant, array $weighed): array
    {
        $made = 0 === $variant ? [] : array_merge(...array_map(static fn (Weighed $w): array => $w->kept ? $w->idea->steps : [], $weighed));

        return [...$this->begins(), ...$made];
    }

    /**
     * What is weighed on the first rung: each learner once with its usual settings, then drawn ones, learner by learner in turn.
     *
     * @param list<Weighed> $weighed
     *
     * @return list<Candidate> variant 1 has what was made, 0 has not
     */
    public function candidates(int $tries, array $weighed): array
    {
        $random = Random::stream($this->seed, 'guided search');
        $made = [] !== array_filter($weighed, static fn (Weighed $w): bool => $w->kept);
        $count = \count($this->learners);
        $spaces = array_map(static fn (string $l): Space => Space::of($l, self::ranges($l)), $this->learners);
        $out = [];
        for ($i = 0; $i < $tries && $count > 0; ++$i) {
            $space = $i % $count;
            $turn = intdiv($i, $count);
            $settings = 0 === $turn ? $spaces[$space]->fixed : $spaces[$space]->draw($random);
            $out[] = new Candidate($space, $made && self::PLAIN_EVERY - 1 !== $turn % self::PLAIN_EVERY ? 1 : 0, 0, $settings);
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
        $data = $this->data($this->stepsOf($tries[0]->variant, $weighed));
        $rows = $data->some($this->choosing, (int) ceil(self::RUNGS[$rung]['rows'] * \count($this->choosing)));
        $folds = Judging::crossed(Judging::folds(
            $this->task,
            $this->outcome,
            $rows,
            self::RUNGS[$rung]['folds'],
            $this->seed,
            $this->apart,
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
                $outcome = array_map(fn (int $r): float => $this->outcome[$r], $fold['validation']);
                $weights = $this->weightsOf($fold['validation']);
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
        $fold = $this->data($this->stepsOf($try->variant, $weighed))->prepared($this->choosing, $this->judging);
        $answers = FoldFit::of($fold, Learners::make($this->learners[$try->space], $try->settings), $progress)->answers();
        $outcome = array_map(fn (int $r): float => $this->outcome[$r], $this->judging);
        $weights = $this->weightsOf($this->judging);
        $sample = Sample::known($outcome, $answers, $weights, false);

        return null === $sample ? new Interval(null) : $this->figure->interval($sample) ?? new Interval(null);
    }

    /**
     * @param list<int> $rows
     *
     * @return ?list<float>
     */
    private function weightsOf(array $rows): ?array
    {
        return null === $this->weights ? null : array_map(fn (int $r): float => $this->weights[$r] ?? 1.0, $rows);
    }

    /**
     * The winner, fitted on all open rows, ready for use.
     *
     * @param list<Weighed> $weighed
     */
    public function whole(Candidate $try, array $weighed, string $target, string $event): ScoringModel
    {
        $steps = Preparation::fromArray($this->stepsOf($try->variant, $weighed));

        return (new Trying(
            $this->table,
            $this->inputs,
            $this->outcome,
            $steps,
            Learners::make($this->learners[$try->space], $try->settings),
            $this->classes,
            $this->weights,
            $this->apart,
        ))->whole($target, $event);
    }
}
