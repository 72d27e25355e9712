<?php

declare(strict_types=1);

namespace Dokimos\Core\Explain;

use Dokimos\Core\Math\Determinant;

/**
 * A sum of few terms that answers as a model does near one record (Ribeiro, Singh and Guestrin 2016): numbers in standard deviations,
 * values of
 * categories as "the record's own or another", changed records weighing less the farther they are. Definition: docs/methods/how-sure.md.
 */
final readonly class LocalSurrogate
{
    /**
     * @param list<float>       $record  of the terms: z of a number, 1 of a category
     * @param list<list<float>> $rows    per changed record its terms
     * @param list<float>       $answers of the model
     * @param list<float>       $weights
     */
    private function __construct(private array $record, private array $rows, private array $answers, public array $weights)
    {
    }

    /**
     * @param list<float|string|null>       $record  cells of the record
     * @param list<list<float|string|null>> $changed cells of the changed records
     * @param list<?array{float, float}>    $scales  of each column mean and standard deviation of a number; null for a category
     * @param list<float>                   $answers of the changed records
     */
    public static function of(array $record, array $changed, array $scales, array $answers): self
    {
        $width = 0.75 * sqrt(\count($scales));
        $z = static function (float|string|null $cell, float $mean, float $sd): float {
            return $sd > 0.0 && is_numeric($cell) ? ((float) $cell - $mean) / $sd : 0.0;
        };
        $own = [];
        foreach ($scales as $j => $scale) {
            $own[] = null === $scale ? 1.0 : $z($record[$j], ...$scale);
        }
        $rows = $weights = [];
        foreach ($changed as $cells) {
            $terms = [];
            $distance = 0.0;
            foreach ($scales as $j => $scale) {
                $terms[] = $term = null === $scale ? ($cells[$j] === $record[$j] ? 1.0 : 0.0) : $z($cells[$j], ...$scale);
                $distance += ($term - $own[$j]) ** 2;
            }
            $rows[] = $terms;
            $weights[] = exp(-$distance / $width ** 2);
        }

        return new self($own, $rows, $answers, $weights);
    }

    /**
     * Weighted least squares, plus a price on the squares of the coefficients; the intercept has none.
     *
     * @param list<int> $terms of the columns, by place
     *
     * @return array{intercept: float, coefficients: array<int, float>, contributions: array<int, float>, weighted_r_squared: float, prediction_at_record: float} by place
     */
    public function fit(array $terms, float $ridge = 0.0): array
    {
        $p = \count($terms) + 1;
        $cross = array_fill(0, $p, array_fill(0, $p, 0.0));
        $right = array_fill(0, $p, 0.0);
        foreach ($this->rows as $i => $row) {
            $x = [1.0];
            foreach ($terms as $j) {
                $x[] = $row[$j];
            }
            $w = $this->weights[$i];
            for ($a = 0; $a < $p; ++$a) {
                $wx = $w * $x[$a];
                $right[$a] += $wx * $this->answers[$i];
                for ($b = 0; $b < $p; ++$b) {
                    $cross[$a][$b] += $wx * $x[$b];
                }
            }
        }
        for ($a = 1; $a < $p; ++$a) {
            // Of a term that never changes the smallest price keeps the system solvable: its coefficient is 0.
            $cross[$a][$a] += $ridge > 0.0 ? $ridge : ($cross[$a][$a] <= 0.0 ? 1.0 : 0.0);
        }
        $solved = Determinant::solve(array_map(array_values(...), array_values($cross)), array_values($right));
        $coefficients = $contributions = [];
        foreach ($terms as $k => $j) {
            $coefficients[$j] = $solved[$k + 1];
            $contributions[$j] = $solved[$k + 1] * $this->record[$j];
        }
        $all = array_sum($this->weights);
        $mean = 0.0;
        foreach ($this->answers as $i => $answer) {
            $mean += $this->weights[$i] * $answer / max(1e-300, $all);
        }
        $left = $total = 0.0;
        foreach ($this->rows as $i => $row) {
            $says = $solved[0];
            foreach ($terms as $k => $j) {
                $says += $solved[$k + 1] * $row[$j];
            }
            $left += $this->weights[$i] * ($this->answers[$i] - $says) ** 2;
            $total += $this->weights[$i] * ($this->answers[$i] - $mean) ** 2;
        }

        return [
            'intercept' => $solved[0], 'coefficients' => $coefficients, 'contributions' => $contributions,
            'weighted_r_squared' => $total > 0.0 ? 1 - $left / $total : 0.0, 'prediction_at_record' => $solved[0] + array_sum($contributions),
        ];
    }

    /**
     * Term by term the one that lets the sum follow the model most.
     *
     * @return list<array{added: int, weighted_r_squared: float, tried: array<int, float>}>
     */
    public function forward(int $most): array
    {
        $chosen = $steps = [];
        while (\count($chosen) < min($most, \count($this->record))) {
            $tried = [];
            foreach (array_keys($this->record) as $j) {
                if (!\in_array($j, $chosen, true)) {
                    $tried[$j] = $this->fit([...$chosen, $j])['weighted_r_squared'];
                }
            }
            // The first of equal ones.
            $best = [] === $tried ? 0 : (int) array_search(max($tried), $tried, true);
            $chosen[] = $best;
            $steps[] = ['added' => $best, 'weighted_r_squared' => $tried[$best], 'tried' => $tried];
        }

        return $steps;
    }
}
