<?php

declare(strict_types=1);

namespace Dokimos\Core\Measure;

/** Figures of several classes; definitions: docs/methods/class-figures.md. */
final class ClassFigures
{
    /**
     * @param list<string>      $classes in the order that ties go by
     * @param list<int>         $actual  the place of each row's class
     * @param list<list<float>> $shares  per class, one chance per row
     *
     * @return array<string, mixed> figures by the names of the reference cases
     *
     * @throws \LengthException several classes need rows, and chances of each class
     */
    public static function of(array $classes, array $actual, array $shares): array
    {
        $n = \count($actual);
        $k = \count($classes);
        if (0 === $n || \count($shares) !== $k) {
            throw new \LengthException('Several classes need rows, and chances of each class.');
        }
        $confusion = array_fill(0, $k, array_fill(0, $k, 0));
        $loss = $brier = 0.0;
        $second = 0;
        foreach ($actual as $row => $truth) {
            $best = 0;
            $ahead = 0;
            foreach ($shares as $class => $own) {
                $p = $own[$row];
                $best = $p > $shares[$best][$row] ? $class : $best;
                // Those that come before the true class: larger, or equal and earlier.
                $ahead += $class !== $truth && ($p > $shares[$truth][$row] || ($p === $shares[$truth][$row] && $class < $truth)) ? 1 : 0;
                $brier += ($p - ($class === $truth ? 1.0 : 0.0)) ** 2;
            }
            ++$confusion[$truth][$best];
            $second += $ahead < 2 ? 1 : 0;
            $loss += Surprise::at($shares[$truth][$row]);
        }
        $perClass = [];
        $right = 0;
        foreach ($classes as $c => $name) {
            $support = array_sum($confusion[$c]);
            $predicted = array_sum(array_column($confusion, $c));
            $hits = $confusion[$c][$c];
            $right += $hits;
            $precision = $predicted > 0 ? $hits / $predicted : 0.0;
            $recall = $support > 0 ? $hits / $support : 0.0;
            $events = array_map(static fn (int $a): float => $a === $c ? 1.0 : 0.0, $actual);
            $perClass[] = ['cls' => $name, 'support' => $support, 'predicted' => $predicted, 'precision' => (float) $precision, 'recall' => (float) $recall, 'f1' => $precision + $recall > 0.0 ? 2 * $precision * $recall / ($precision + $recall) : 0.0, 'auc_one_vs_rest' => (new BinaryScores($events, $shares[$c]))->auc()];
        }
        $macro = $weighted = [];
        foreach (['precision', 'recall', 'f1'] as $figure) {
            [$macro[$figure], $weighted[$figure]] = self::means(array_column($perClass, $figure), array_column($perClass, 'support'));
        }
        [$macroAuc, $weightedAuc] = self::means(array_column($perClass, 'auc_one_vs_rest'), array_column($perClass, 'support'));
        $agreement = $sameActual = $samePredicted = 0.0;
        foreach ($perClass as $c) {
            $agreement += $c['support'] * $c['predicted'];
            $sameActual += $c['support'] ** 2;
            $samePredicted += $c['predicted'] ** 2;
        }
        $chance = $agreement / ($n * $n);
        $spread = ($n * $n - $samePredicted) * ($n * $n - $sameActual);

        return [
            'n' => $n,
            'classes' => $classes,
            'confusion' => $confusion,
            'per_class' => $perClass,
            'accuracy' => $right / $n,
            'macro' => $macro,
            'weighted' => $weighted,
            'balanced_accuracy' => $macro['recall'],
            'log_loss' => $loss / $n,
            'macro_auc' => $macroAuc,
            'weighted_auc' => $weightedAuc,
            'kappa' => $chance < 1.0 ? ($right / $n - $chance) / (1 - $chance) : null,
            'mcc' => $spread > 0.0 ? ($n * $right - $agreement) / sqrt($spread) : null,
            'top2_accuracy' => $second / $n,
            'brier' => $brier / $n,
        ];
    }

    /**
     * @param list<?float> $values
     * @param list<int>    $support
     *
     * @return array{?float, ?float} plain and by support; null when one is not defined
     */
    private static function means(array $values, array $support): array
    {
        $plain = $weighted = 0.0;
        foreach ($values as $i => $v) {
            if (null === $v) {
                return [null, null];
            }
            $plain += $v;
            $weighted += $v * $support[$i];
        }

        return [$plain / max(1, \count($values)), $weighted / max(1, array_sum($support))];
    }
}
