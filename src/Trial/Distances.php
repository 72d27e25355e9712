<?php

declare(strict_types=1);

namespace App\Trial;

use App\Question\Questions;
use App\Study\Study;
use Dokimos\Core\Figure\Figure;
use Dokimos\Core\Stamp;
use Dokimos\Core\Task\Answers;
use Dokimos\Core\Validate\Comparison;
use Dokimos\Core\Validate\Luck;
use Psr\Cache\CacheItemPoolInterface;
use Symfony\Contracts\Cache\CacheInterface;
use Symfony\Contracts\Cache\ItemInterface;

/** How trials stand to each other: the one answer to "within noise", and how much luck the leader's figure holds. */
final readonly class Distances
{
    /** From so many trials on the choice of the best is worth a word. */
    private const LUCK_FROM = 5;
    /** So many of the best are looked at for it. */
    private const LUCK_OF = 40;
    /** Values that a request may go through for it: trials times rows. */
    private const AT_ONCE = 400_000;
    private const ROWS_AT_ONCE = 20_000;
    private const KEPT = 86400 * 30;
    /** Raised when what is kept changes. */
    private const FORM = 5;

    public function __construct(
        private Validation $validation,
        private CacheInterface $cache,
        private CacheItemPoolInterface $pool,
        private Questions $questions,
    ) {
    }

    /**
     * @param list<Trial> $trials  best first
     * @param float       $seconds that may be spent on comparing row by row what is not known yet; the rest stands as pending
     *
     * @return list<DistanceView> of each to the first
     */
    public function of(Study $study, array $trials, float $seconds = \INF): array
    {
        $ranked = $this->comparable($study, $trials);
        $leader = array_shift($ranked);
        if (null === $leader) {
            return [];
        }
        $pairs = Comparison::pairs(\count($ranked) + 1);
        $until = microtime(true) + $seconds;

        return array_map(fn (Trial $trial): DistanceView => $this->between($study, $trial, $leader, $pairs, $until), $ranked);
    }

    /**
     * @param int     $pairs  of trials that the two are among
     * @param float   $until  when to stop comparing row by row
     * @param ?Figure $figure that they are held against each other by; null = the one that ranks
     */
    public function between(Study $study, Trial $one, Trial $other, int $pairs, float $until = \INF, ?Figure $figure = null): DistanceView
    {
        $figure ??= $this->questions->of($study)->figure();
        [$a, $b] = [$one->lineBy($figure), $other->lineBy($figure)];
        $plain = ($a->value ?? 0.0) - ($b->value ?? 0.0);
        if (!Ancestry::onItsRows($one) || !Ancestry::onItsRows($other) || [] !== Ancestry::stale($one) || [] !== Ancestry::stale($other)) {
            return new DistanceView($one->id(), $plain, null, null, null, null, null, $a->rows, false);
        }
        // The same folds, every row answered: what is kept with the trials is enough.
        if ($a->full && $b->full && !$a->pooled && \count($a->each) > 1 && \count($a->each) === \count($b->each)) {
            return self::view($one, Comparison::ofFolds($a->each, $b->each, $this->meanRatio($study), $pairs), $plain, $a->rows);
        }
        $key = 'apart.'.Stamp::of([
            self::FORM,
            $this->questions->of($study)->hash(),
            $figure->key,
            self::mark($one, $a),
            self::mark($other, $b),
        ]);
        // Of many rows a pair alone takes longer than a request may: a worker compares them when a trial is done.
        $waits = microtime(true) >= $until || \INF !== $until && $a->rows > self::ROWS_AT_ONCE;
        $known = $waits ? $this->peek($key) : null;
        if (null === $known && $waits) {
            return new DistanceView($one->id(), $plain, null, null, null, null, null, $a->rows, true);
        }
        /** @var array{both: int, difference: ?float, error: ?float, p: ?float, freedom: ?int} $told */
        $told = $known ?? $this->cache->get($key, function (ItemInterface $item) use ($study, $one, $other, $figure): array {
            $item->expiresAfter(self::KEPT);

            return $this->apart($study, $one, $other, $figure);
        });

        return self::view(
            $one,
            null === $told['difference'] ? null : Comparison::known(
                $told['difference'],
                (float) $told['error'],
                (float) $told['p'],
                $told['freedom'],
                $pairs,
            ),
            $plain,
            $told['both'],
        );
    }

    private static function view(Trial $one, ?Comparison $test, float $plain, int $both): DistanceView
    {
        return new DistanceView(
            $one->id(),
            $test->difference ?? $plain,
            $test?->low,
            $test?->high,
            $test?->p,
            $test?->adjusted,
            $test?->isNoise(),
            $both,
            false,
        );
    }

    /** @return array{both: int, difference: ?float, error: ?float, p: ?float, freedom: ?int} whatever the number of pairs */
    private function apart(Study $study, Trial $one, Trial $other, Figure $figure): array
    {
        [$a, $b] = [$one->lineBy($figure), $other->lineBy($figure)];
        $folds = $this->validation->of($study);
        [$first, $second] = [$folds->answers($one->repeats()), $folds->answers($other->repeats())];
        $known = array_map(static fn (bool $x, bool $y): bool => $x && $y, $first->answered(), $second->answered());
        $both = \count(array_filter($first->rows(), static fn (int $row): bool => $known[$row]));
        // Trials of before kept the folds of one figure alone.
        $all = \count($first->rows()) === $both && \count($a->each) === \count($b->each) && [] !== $a->each;
        $test = $first->hasFolds() && !$a->pooled
            ? Comparison::ofFolds(
                $all ? $a->each : $first->each($figure, $known),
                $all ? $b->each : $second->each($figure, $known),
                $first->meanRatio(),
            )
            : Comparison::ofRows($figure, $first->outcomes(), $first->first(), $second->first());

        return [
            'both' => $both,
            'difference' => $test?->difference,
            'error' => $test?->error,
            'p' => $test?->p,
            'freedom' => $test?->freedom,
        ];
    }

    /** Validation rows for one training row, on average: the same for all trials of the same division. */
    private function meanRatio(Study $study): float
    {
        return $this->cache->get('ratio.'.self::FORM.$this->questions->of($study)->hash(), function (ItemInterface $item) use ($study): float {
            $item->expiresAfter(self::KEPT);

            return $this->validation->of($study)->answers([])->meanRatio();
        });
    }

    /** @return ?array{both: int, difference: ?float, error: ?float, p: ?float, freedom: ?int} what is known already */
    private function peek(string $key): ?array
    {
        $item = $this->pool->getItem($key);
        /** @var ?array{both: int, difference: ?float, error: ?float, p: ?float, freedom: ?int} $known */
        $known = $item->isHit() ? $item->get() : null;

        return $known;
    }

    /**
     * @param list<Trial> $trials best first
     * @param bool        $now    whether it may be worked out here, where that takes long; else only what is known is told
     *
     * @return ?float how much better the leader looks than it is; null with fewer than five trials
     */
    public function luck(Study $study, array $trials, bool $now = true): ?float
    {
        $ranked = array_values(array_filter($this->comparable($study, $trials), static fn (Trial $t): bool => [] === Ancestry::stale($t)));
        if (\count($ranked) < self::LUCK_FROM) {
            return null;
        }
        $ranked = \array_slice($ranked, 0, self::LUCK_OF);
        $key = 'luck.'.Stamp::of([
            self::FORM,
            $this->questions->of($study)->hash(),
            $this->questions->of($study)->figure()->key,
            array_map(static fn (Trial $t): array => self::mark($t, $t->line()), $ranked),
        ]);
        if (!$now && \count($ranked) * $ranked[0]->line()->rows > self::AT_ONCE && !$this->pool->getItem($key)->isHit()) {
            return null;
        }

        return $this->cache->get($key, function (ItemInterface $item) use ($study, $ranked): ?float {
            $item->expiresAfter(self::KEPT);
            $folds = $this->validation->of($study);
            $answers = array_map(static fn (Trial $trial): Answers => $folds->answers($trial->repeats())->firstFilled(), $ranked);
            $outcome = $folds->answers($ranked[0]->repeats())->outcomes();

            return [] === $outcome ? null : Luck::of($this->questions->of($study)->figure(), $outcome, $answers);
        });
    }

    /** @return list<mixed> what is said of a trial here depends on */
    private static function mark(Trial $trial, TrialLine $line): array
    {
        return [$trial->id(), $trial->ancestry(), $trial->learner(), $trial->settings(), $line->toArray()];
    }

    /**
     * @param list<Trial> $trials
     *
     * @return list<Trial> those with a figure of what the study asks now
     */
    private function comparable(Study $study, array $trials): array
    {
        return array_values(array_filter($trials, function (Trial $trial) use ($study): bool {
            return null !== $trial->line()->value && $trial->line()->task === $this->questions->of($study)->task();
        }));
    }
}
