<?php

declare(strict_types=1);

namespace Dokimos\Core\Guide;

use Dokimos\Core\Figure\Figure;
use Dokimos\Core\Learn\Learner;
use Dokimos\Core\Learners\Learners;
use Dokimos\Core\Progress;
use Dokimos\Core\Refusal;
use Dokimos\Core\Search\Weigh;
use Dokimos\Core\Task\Answers;
use Dokimos\Core\Validate\Comparison;

/**
 * Weighs what might be made of the columns: first for every learner, by a scout that bends by itself and only adds up; then, in company of
 * what
 * was kept, what learners need that follow a number in a straight line. Definition: docs/methods/guided-search.md.
 */
final readonly class Making
{
    private const ROUNDS = 3;
    private const IDEAS_OF_A_ROUND = 4;
    private const FOLDS = 4;

    /** @var list<array{validation: list<int>, training: list<int>}> */
    private array $folds;

    /** @param bool $straight whether a learner that follows a straight line may be used */
    public function __construct(private Material $material, private Figure $figure, private bool $straight, int $seed)
    {
        $this->folds = Judging::crossed(Judging::folds(
            $material->task,
            $material->outcome,
            $material->choosing,
            self::FOLDS,
            $seed,
            $material->apart,
            'making',
        ));
    }

    /**
     * @param ?\Closure(): bool $goesOn asked before each idea; null = all are weighed
     * @param int               $most   ideas weighed at most, all together
     *
     * @return list<Weighed> every idea that was looked at, kept or not, in the order of looking
     */
    public function weighed(?Progress $progress, ?\Closure $goesOn, int $most): array
    {
        $weighed = [];
        $may = static function (array $weighed, int $until) use ($most, $goesOn): bool {
            return \count($weighed) < min($most, $until) && (null === $goesOn || $goesOn());
        };
        $scout = Learners::scout($this->material->task);
        $current = $this->answers($scout, []);
        for ($round = 0; null !== $current && $round < self::ROUNDS; ++$round) {
            $ideas = 0 === $round
                ? Ideas::ofSingles($this->material->table, $this->usable(), $this->material->choosing)
                : $this->pairs($current, $weighed);
            foreach ($ideas as $idea) {
                if (!$may($weighed, Guided::IDEAS)) {
                    break 2;
                }
                $progress?->report(\count($weighed) / Guided::ALL_IDEAS, $idea->name);
                [$weighed[], $current] = $this->gain($scout, $idea, $weighed, $current, Weighed::ALL);
            }
        }
        $line = $this->straight ? Learners::straight($this->material->task) : null;
        $current = null === $line || !$may($weighed, Guided::ALL_IDEAS) ? null : $this->answers($line, self::narrow($weighed));
        if (null === $line || null === $current) {
            return $weighed;
        }
        foreach ($this->forStraight($current, $weighed) as $idea) {
            if (!$may($weighed, Guided::ALL_IDEAS)) {
                break;
            }
            $progress?->report(\count($weighed) / Guided::ALL_IDEAS, $idea->name);
            [$weighed[], $current] = $this->gain($line, $idea, $weighed, $current, Weighed::STRAIGHT);
        }

        return $weighed;
    }

    /**
     * @param list<Weighed> $weighed
     *
     * @return list<Idea>
     */
    private static function kept(array $weighed): array
    {
        return array_values(array_map(
            static fn (Weighed $w): Idea => $w->idea,
            array_filter($weighed, static fn (Weighed $w): bool => $w->kept),
        ));
    }

    /**
     * Those kept that leave a regression quick: what a number's bend is worth hardly depends on the words of a text.
     *
     * @param list<Weighed> $weighed
     *
     * @return list<Idea>
     */
    private static function narrow(array $weighed): array
    {
        return array_values(array_filter(self::kept($weighed), static fn (Idea $i): bool => !$i->wide));
    }

    /** @param list<Idea> $ideas */
    private function answers(Learner $learner, array $ideas): ?Answers
    {
        return Weigh::of($this->material->prepared($this->material->steps($ideas)), [$learner], $this->folds)[0]['answers'] ?? null;
    }

    /**
     * @param list<Weighed> $weighed before it
     *
     * @return array{Weighed, Answers} what it gained, and the answers that the next is held against
     */
    private function gain(Learner $learner, Idea $idea, array $weighed, Answers $current, string $for): array
    {
        $kept = Weighed::ALL === $for ? self::kept($weighed) : self::narrow($weighed);
        $steps = $this->material->steps([...$kept, $idea]);
        try {
            $with = Weigh::of($this->material->prepared($steps), [$learner], $this->folds)[0];
        } catch (Refusal $e) {
            return [new Weighed($idea, null, null, null, false, $e->getMessage(), $for), $current];
        }
        if (null === $with['answers']) {
            return [new Weighed($idea, null, null, null, false, $with['why'], $for), $current];
        }
        $rows = $this->material->choosing;
        $test = Comparison::ofRows(
            $this->figure,
            $this->material->outcomesOf($rows),
            $with['answers']->take($rows),
            $current->take($rows),
            $this->material->weightsOf($rows),
            Guided::ALL_IDEAS,
        );
        if (null === $test) {
            return [new Weighed($idea, null, null, null, false, 'The figure is not defined on these rows.', $for), $current];
        }
        [$gain, $low, $high] = $this->figure->more ? [$test->difference, $test->low, $test->high] : [
            -$test->difference,
            null === $test->high ? null : -$test->high,
            null === $test->low ? null : -$test->low,
        ];
        $stays = null !== $low && $low > 0.0;

        return [new Weighed($idea, $gain, $low, $high, $stays, null, $for), $stays ? $with['answers'] : $current];
    }

    /**
     * @param list<Weighed> $weighed
     *
     * @return list<Idea>
     */
    private function pairs(Answers $current, array $weighed): array
    {
        [$table, $names, $rows] = $this->found(self::kept($weighed), $current);

        return Ideas::ofPairs(
            $table,
            array_values(array_filter($names, fn (string $n): bool => $this->material->table->has($n))),
            $rows,
            $this->leftOver($rows, $current),
            array_map(static fn (Weighed $w): string => $w->idea->name, $weighed),
            self::IDEAS_OF_A_ROUND,
        );
    }

    /**
     * @param list<Weighed> $weighed
     *
     * @return list<Idea>
     */
    private function forStraight(Answers $current, array $weighed): array
    {
        [$table, $names, $rows] = $this->found(self::narrow($weighed), $current);

        return StraightIdeas::of($table, $names, $rows, $this->leftOver($rows, $current), Guided::ALL_IDEAS - Guided::IDEAS);
    }

    /**
     * @param list<Idea> $ideas
     *
     * @return array{\Dokimos\Core\Table\Table, list<string>, list<int>} the prepared table, columns that may serve, and rows with an answer
     */
    private function found(array $ideas, Answers $current): array
    {
        $fold = $this->material->prepared($this->material->steps($ideas))->prepared($this->material->choosing);

        return [
            $fold->task->table,
            $fold->task->inputs,
            array_values(array_filter($this->material->choosing, static fn (int $r): bool => $current->isKnown($r))),
        ];
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
        $outcome = $this->material->outcome;
        if (1 === $answers->width) {
            return [array_map(static fn (int $r): float => $outcome[$r] - $answers->values[$r], $rows)];
        }
        $counts = array_count_values(array_map(static fn (int $r): int => (int) $outcome[$r], $rows));
        arsort($counts);

        return array_map(
            static fn (int $class): array => array_map(
                static fn (int $r): float => ((int) $outcome[$r] === $class ? 1.0 : 0.0) - $answers->ofClass($r, $class),
                $rows,
            ),
            \array_slice(array_keys($counts), 0, 2),
        );
    }

    /** @return list<string> raw columns that are there after the first steps, whatever their kind */
    private function usable(): array
    {
        $names = $this->material->prepared($this->material->steps([]))->prepared($this->material->choosing)->task->table->names();

        return array_values(array_filter($this->material->inputs, static fn (string $n): bool => \in_array($n, $names, true)));
    }
}
