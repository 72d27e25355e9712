<?php

declare(strict_types=1);

namespace Dokimos\Core\Explain;

use Dokimos\Core\Table\Table;

/**
 * How far columns act together in a model (Friedman and Popescu 2008): the share of their joint effect that their single effects do not add
 * up
 * to. 0 or more by construction, so that a value by itself says nothing of chance. Definition: docs/methods/effects.md.
 */
final class Together
{
    /** @var array<string, list<float>> mean answers by the columns that are taken from the row, centred */
    private array $known = [];

    /**
     * @param \Closure(Table): list<float> $answers
     * @param Table                        $rows    each is a background record of all others, and of itself
     */
    public function __construct(private readonly \Closure $answers, private readonly Table $rows)
    {
    }

    /**
     * Partial dependence at the rows themselves: the mean answer over all rows with these columns of the one, centred over the rows.
     *
     * @param list<string> $columns
     *
     * @return list<float> per row
     */
    public function effect(array $columns): array
    {
        sort($columns);
        $key = implode("\0", $columns);
        if (isset($this->known[$key])) {
            return $this->known[$key];
        }
        $n = $this->rows->rows;
        $means = [];
        foreach (range(0, max(0, $n - 1)) as $i) {
            $own = $this->rows;
            foreach ($columns as $column) {
                $own = $own->with($column, $this->rows->column($column)->take(array_fill(0, $n, $i)));
            }
            $answers = array_filter(($this->answers)($own), is_finite(...));
            $means[] = array_sum($answers) / max(1, \count($answers));
        }

        return $this->known[$key] = self::centred($means);
    }

    /**
     * H squared is numerator over denominator; unscaled is the square root of the numerator per row.
     *
     * @return array{numerator: float, denominator: float, h_squared: float, h: float, unscaled: float}
     */
    public function pair(string $one, string $other): array
    {
        return self::strength($this->effect([$one, $other]), $this->effect([$one]), $this->effect([$other]));
    }

    /** @return array{numerator: float, denominator: float, h_squared: float, h: float, unscaled: float} of one with all others */
    public function total(string $column): array
    {
        return self::strength(
            self::centred(($this->answers)($this->rows)),
            $this->effect([$column]),
            $this->effect(array_values(array_diff($this->rows->names(), [$column]))),
        );
    }

    /**
     * @param list<float> $joint
     * @param list<float> $one
     * @param list<float> $other
     *
     * @return array{numerator: float, denominator: float, h_squared: float, h: float, unscaled: float}
     */
    private static function strength(array $joint, array $one, array $other): array
    {
        $numerator = $denominator = 0.0;
        foreach ($joint as $i => $j) {
            $numerator += ($j - $one[$i] - $other[$i]) ** 2;
            $denominator += $j ** 2;
        }
        $share = $denominator > 0.0 ? $numerator / $denominator : 0.0;

        return [
            'numerator' => $numerator, 'denominator' => $denominator, 'h_squared' => $share, 'h' => sqrt($share),
            'unscaled' => sqrt($numerator / max(1, \count($joint))),
        ];
    }

    /**
     * @param list<float> $values
     *
     * @return list<float>
     */
    private static function centred(array $values): array
    {
        $mean = array_sum($values) / max(1, \count($values));

        return array_map(static fn (float $v): float => $v - $mean, $values);
    }
}
