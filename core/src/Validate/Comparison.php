<?php

declare(strict_types=1);

namespace Dokimos\Core\Validate;

use Dokimos\Core\Figure\Figure;
use Dokimos\Core\Figure\Sample;
use Dokimos\Core\Math\Distribution\Normal;
use Dokimos\Core\Math\Distribution\StudentT;
use Dokimos\Core\Task\Answers;

/**
 * Whether two trials differ by more than noise, on the rows that both answer for: the one comparison behind "within noise". Where several
 * trials stand beside each other the leader was chosen among them, so that a difference is held against all pairs (Bonferroni).
 */
final readonly class Comparison
{
    /**
     * @param float  $difference first less second
     * @param ?float $low        of the interval that holds for all pairs at once
     * @param ?float $p          of this pair alone
     * @param ?float $adjusted   for all pairs
     * @param float  $error      standard error of the difference
     * @param ?int   $freedom    of the t distribution it is held against; null = the normal
     */
    private function __construct(
        public float $difference,
        public ?float $low,
        public ?float $high,
        public ?float $p,
        public ?float $adjusted,
        public float $error,
        public ?int $freedom,
    ) {
    }

    /** One that was made before, among so many pairs. */
    public static function known(float $difference, float $error, float $p, ?int $freedom, int $pairs): self
    {
        $reach = (null === $freedom ? new Normal() : new StudentT($freedom))->quantile(1 - 0.025 / $pairs) * $error;

        return new self($difference, $difference - $reach, $difference + $reach, $p, min(1.0, $p * $pairs), $error, $freedom);
    }

    /** Without a test nothing is told apart. */
    public function isNoise(): bool
    {
        return null === $this->adjusted || $this->adjusted > 0.05;
    }

    /** How many comparisons there are among so many trials. */
    public static function pairs(int $trials): int
    {
        return max(1, intdiv($trials * ($trials - 1), 2));
    }

    /**
     * On the same folds: the corrected resampled t test (Nadeau and Bengio 2003).
     *
     * @param list<?float> $a     the figure per fold and repeat
     * @param list<?float> $b
     * @param float        $ratio validation rows for one training row
     */
    public static function ofFolds(array $a, array $b, float $ratio, int $pairs = 1): ?self
    {
        $own = $other = [];
        foreach ($a as $i => $value) {
            // Only folds in which both are defined.
            if (null !== $value && null !== ($b[$i] ?? null)) {
                $own[] = $value;
                $other[] = $b[$i];
            }
        }
        $n = \count($own);
        if (\count($a) !== \count($b) || $n < 2) {
            return null;
        }
        /** @var array{difference: array{mean: float}, corrected: array{se: float, p: ?float}} $all */
        $all = FoldComparison::of($own, $other, $ratio);
        $mean = $all['difference']['mean'];
        // Without any spread there is no test: the same difference everywhere is certain, and none at all is none.
        $p = $all['corrected']['p'] ?? (0.0 === $mean ? 1.0 : 0.0);

        return self::known($mean, $all['corrected']['se'], $p, $n - 1, $pairs);
    }

    /**
     * On the same rows, for models as they are, by the error that the figure knows of a difference.
     *
     * @param list<float>  $outcome
     * @param ?list<float> $weights
     */
    public static function ofRows(Figure $figure, array $outcome, Answers $a, Answers $b, ?array $weights = null, int $pairs = 1): ?self
    {
        $known = $rows = $counts = [];
        foreach ($outcome as $i => $y) {
            if ($a->isKnown($i) && $b->isKnown($i) && (null === $weights || $weights[$i] > 0.0)) {
                $known[] = $y;
                $rows[] = $i;
                $counts[] = $weights[$i] ?? 1.0;
            }
        }
        $counts = null === $weights ? null : $counts;
        $told = [] === $known ? null : $figure->difference(
            new Sample($known, $a->take($rows), $counts),
            new Sample($known, $b->take($rows), $counts),
        );
        if (null === $told) {
            return null;
        }
        [$difference, $error] = $told;

        return self::known(
            $difference,
            $error,
            $error > 0.0 ? (new Normal())->twoSided($difference / $error) : (0.0 === $difference ? 1.0 : 0.0),
            null,
            $pairs,
        );
    }
}
