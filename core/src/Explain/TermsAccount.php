<?php

declare(strict_types=1);

namespace Dokimos\Core\Explain;

use Dokimos\Core\Learn\SumOfTerms;
use Dokimos\Core\Table\Stacked;
use Dokimos\Core\Table\Table;

/**
 * Shares a sum of functions of one column or two out among players, exactly: a function of one column is its player's, less its mean over
 * the background; one of two is shared by what each adds first and what it adds second, in equal parts. Definition: docs/methods/accounts.md.
 */
final readonly class TermsAccount implements SharesOut
{
    private float $base;
    /** @var list<float> mean of each term over the background */
    private array $means;

    /**
     * @param array<string, int> $players    player of each column
     * @param Table              $background prepared as the model asks
     */
    public function __construct(private SumOfTerms $sum, private array $players, private Table $background)
    {
        $base = $sum->start;
        $means = [];
        foreach (array_keys($sum->columns) as $term) {
            $base += $means[] = self::mean(($sum->values)($background, $term));
        }
        [$this->base, $this->means] = [$base, $means];
    }

    /** @param list<float> $values */
    private static function mean(array $values): float
    {
        return array_sum($values) / max(1, \count($values));
    }

    public function base(): float
    {
        return $this->base;
    }

    public function of(Table $table, int $row, int $players): array
    {
        $out = array_fill(0, $players, 0.0);
        $record = $table->take([$row]);
        foreach ($this->sum->columns as $term => $columns) {
            $own = array_map(fn (string $c): int => $this->players[$c], $columns);
            $all = ($this->sum->values)($record, $term)[0];
            [$first, $second] = [$own[0], $own[1] ?? $own[0]];
            if ($first === $second) {
                $out[$first] += $all - $this->means[$term];
                continue;
            }
            // The mean with one column of the record and the other of the background.
            $with = fn (string $column): float => self::mean(($this->sum->values)($this->mixed($record, $column), $term));
            [$a, $b] = [$with($columns[0]), $with($columns[1])];
            $out[$first] += ($a - $this->means[$term] + $all - $b) / 2;
            $out[$second] += ($b - $this->means[$term] + $all - $a) / 2;
        }

        return array_values($out);
    }

    private function mixed(Table $record, string $column): Table
    {
        $n = $this->background->rows;
        $both = Stacked::columns($this->background->column($column), $record->column($column));

        return $this->background->with($column, $both->take(array_fill(0, $n, $n)));
    }
}
