<?php

declare(strict_types=1);

namespace Dokimos\Core\Measure;

/** How well several classes are told apart, each figure with its interval. Definitions: docs/methods/class-figures.md, intervals.md. */
final class ClassJudgment
{
    private const LEAST = 1e-15;

    /**
     * @param list<string>        $classes
     * @param non-empty-list<int> $actual  the place of each row's class
     * @param list<list<float>>   $shares  per class, one chance per row
     *
     * @return array<string, mixed> confusion, figures and those of each class
     */
    public static function of(array $classes, array $actual, array $shares): array
    {
        $n = \count($actual);
        $figures = ClassFigures::of($classes, $actual, $shares);
        /** @var list<list<int>> $confusion */
        $confusion = $figures['confusion'];
        $right = $largest = 0;
        $entropy = 0.0;
        $each = $areas = [];
        foreach ($classes as $c => $name) {
            $hits = $confusion[$c][$c];
            $support = array_sum($confusion[$c]);
            $called = array_sum(array_column($confusion, $c));
            $right += $hits;
            $largest = max($largest, $support);
            $entropy -= $support > 0 ? $support / $n * log($support / $n) : 0.0;
            $area = 0 === $support || $support === $n ? null : DeLong::of(array_map(static fn (int $a): float => $a === $c ? 1.0 : 0.0, $actual), $shares[$c]);
            if (null !== $area) {
                $areas[] = $area;
            }
            $each[] = [
                'name' => $name,
                'rows' => $support,
                'called' => $called,
                'precision' => Interval::wilson($hits, $called)->toArray(),
                'recall' => Interval::wilson($hits, $support)->toArray(),
                'f1' => Interval::f1($hits, $called - $hits, $support - $hits)->toArray(),
                'auc' => $area?->interval()->toArray(),
            ];
        }

        $drawn = Bootstrap::confusion($confusion);

        return [
            'accuracy' => Interval::wilson($right, $n)->toArray(),
            'logLoss' => Interval::mean(self::losses($actual, $shares))->toArray(),
            'balancedAccuracy' => $drawn['balancedAccuracy']->toArray(),
            'kappa' => null === $figures['kappa'] ? null : $drawn['kappa']->toArray(),
            // Where a class does not occur, the mean over all of them is not defined.
            'macroAuc' => [] === $areas || \count($areas) < \count($classes) ? null : DeLong::mean($areas)->toArray(),
            'confusion' => $confusion,
            'classes' => $each,
            'baseline' => ['accuracy' => $largest / $n, 'logLoss' => $entropy, 'balancedAccuracy' => 1 / max(1, \count($classes)), 'macroAuc' => 0.5, 'kappa' => 0.0, 'rows' => $n],
        ];
    }

    /**
     * @param list<int>         $actual
     * @param list<list<float>> $shares
     *
     * @return list<float> −ln of the chance of the true class
     */
    public static function losses(array $actual, array $shares): array
    {
        return array_map(static fn (int $truth, int $i): float => -log(max(self::LEAST, $shares[$truth][$i])), $actual, array_keys($actual));
    }
}
