<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Bayes;

use Dokimos\Core\Learn\TellsClasses;
use Dokimos\Core\Table\Table;

/** Logarithms of classes as evidence: how much they move the log-odds of a class against the others. */
final class Weights
{
    /**
     * @param list<float> $logs   of a value in each class
     * @param list<float> $priors logarithms of the shares of classes
     * @param float       $times  that all of it counts
     *
     * @return list<float> per class
     */
    public static function of(array $logs, array $priors, float $times): array
    {
        $out = [];
        foreach ($logs as $class => $log) {
            // The value among the other classes, each by its share.
            $others = [];
            $all = [];
            foreach ($logs as $k => $other) {
                if ($k !== $class) {
                    $others[] = $priors[$k] + $other;
                    $all[] = $priors[$k];
                }
            }
            $out[] = $times * ($log - (self::sum($others) - self::sum($all)));
        }

        return $out;
    }

    /**
     * @param list<float> $priors
     *
     * @return list<float> log-odds of each class
     */
    public static function outset(array $priors): array
    {
        $out = [];
        foreach ($priors as $class => $prior) {
            $out[] = $prior - self::sum(array_values(array_diff_key($priors, [$class => 0])));
        }

        return $out;
    }

    /** @param list<float> $logs */
    private static function sum(array $logs): float
    {
        $most = max([-1e300, ...$logs]);
        $sum = 0.0;
        foreach ($logs as $log) {
            $sum += exp($log - $most);
        }

        return $most + log(max(1e-300, $sum));
    }

    /** @return list<array{row: int, predicted: string, probabilities: array<string, float>}> of all rows */
    public static function predictions(TellsClasses $model, Table $new): array
    {
        $shares = $model->shares($new);
        $out = [];
        for ($row = 0; $row < $new->rows; ++$row) {
            $own = array_column($shares, $row);
            $out[] = [
                'row' => $row + 1,
                'predicted' => $model->classes()[(int) array_search(max([0.0, ...$own]), $own, true)],
                'probabilities' => array_combine($model->classes(), $own),
            ];
        }

        return $out;
    }
}
