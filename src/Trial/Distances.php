<?php

declare(strict_types=1);

namespace App\Trial;

use App\Study\Study;
use Dokimos\Core\Figure\Figures;
use Dokimos\Core\Validate\Comparison;
use Dokimos\Core\Validate\Luck;
use Symfony\Contracts\Cache\CacheInterface;
use Symfony\Contracts\Cache\ItemInterface;

/** How trials stand to each other: the one answer to "within noise", and how much luck the leader's figure holds. */
final readonly class Distances
{
    /** From so many trials on the choice of the best is worth a word. */
    private const LUCK_FROM = 5;
    /** Raised when what is kept changes. */
    private const FORM = 2;

    public function __construct(private Validation $validation, private CacheInterface $cache)
    {
    }

    /**
     * @param list<Trial> $trials best first
     *
     * @return list<DistanceView> of each to the first
     */
    public function of(Study $study, array $trials): array
    {
        $ranked = self::comparable($study, $trials);
        $leader = array_shift($ranked);
        $pairs = Comparison::pairs(\count($ranked) + 1);

        return null === $leader ? [] : array_map(fn (Trial $trial): DistanceView => $this->between($study, $trial, $leader, $pairs), $ranked);
    }

    /** @param int $pairs of trials that the two are among */
    public function between(Study $study, Trial $one, Trial $other, int $pairs): DistanceView
    {
        $key = 'distance.'.hash('xxh128', json_encode([self::FORM, $study->hash(), self::mark($one), self::mark($other), $pairs], \JSON_THROW_ON_ERROR));

        return $this->cache->get($key, function (ItemInterface $item) use ($study, $one, $other, $pairs): DistanceView {
            $item->expiresAfter(86400);
            [$view, $against] = [TrialView::of($one), TrialView::of($other)];
            $figure = Figures::ranking($study->task());
            $both = $view->rows;
            $test = null;
            if ([] === $view->stale && [] === $against->stale && Ancestry::onItsRows($one) && Ancestry::onItsRows($other)) {
                $folds = $this->validation->of($study);
                [$first, $second] = [$folds->answers($one->repeats()), $folds->answers($other->repeats())];
                $known = array_map(static fn (bool $a, bool $b): bool => $a && $b, $first->answered(), $second->answered());
                $both = \count(array_filter($first->rows(), static fn (int $row): bool => $known[$row]));
                $all = \count($first->rows()) === $both;
                $test = $first->hasFolds() && !$view->pooled
                    ? Comparison::ofFolds($all ? $view->each : $first->each($figure, $known), $all ? $against->each : $second->each($figure, $known), $first->meanRatio(), $pairs)
                    : Comparison::ofRows($figure, $first->outcomes(), $first->first(), $second->first(), null, $pairs);
            }

            return new DistanceView($one->id(), $test->difference ?? ($view->value ?? 0.0) - ($against->value ?? 0.0), $test?->low, $test?->high, $test?->p, $test?->adjusted, $test?->isNoise(), $both);
        });
    }

    /**
     * @param list<Trial> $trials best first
     *
     * @return ?float how much better the leader looks than it is; null with fewer than five trials
     */
    public function luck(Study $study, array $trials): ?float
    {
        $ranked = array_values(array_filter(self::comparable($study, $trials), static fn (Trial $t): bool => [] === Ancestry::stale($t)));
        if (\count($ranked) < self::LUCK_FROM) {
            return null;
        }
        $key = 'luck.'.hash('xxh128', json_encode([self::FORM, $study->hash(), array_map(self::mark(...), $ranked)], \JSON_THROW_ON_ERROR));

        return $this->cache->get($key, function (ItemInterface $item) use ($study, $ranked): ?float {
            $item->expiresAfter(86400);
            $folds = $this->validation->of($study);
            $answers = [];
            foreach (\array_slice($ranked, 0, 40) as $trial) {
                $answers[] = $folds->answers($trial->repeats())->firstFilled();
            }
            $outcome = $folds->answers($ranked[0]->repeats())->outcomes();

            return [] === $outcome ? null : Luck::of(Figures::ranking($study->task()), $outcome, $answers);
        });
    }

    /** @return list<mixed> what is said of a trial here depends on */
    private static function mark(Trial $trial): array
    {
        return [$trial->id(), $trial->ancestry(), $trial->learner(), $trial->settings(), $trial->line()->toArray()];
    }

    /**
     * @param list<Trial> $trials
     *
     * @return list<Trial> those with a figure of what the study asks now
     */
    private static function comparable(Study $study, array $trials): array
    {
        return array_values(array_filter($trials, static function (Trial $trial) use ($study): bool {
            return null !== $trial->line()->value && $trial->line()->task === $study->task();
        }));
    }
}
