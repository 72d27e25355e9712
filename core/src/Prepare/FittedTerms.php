<?php

declare(strict_types=1);

namespace Dokimos\Core\Prepare;

use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\Kind;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Table;

/** Words of a text as columns; missing where the text is. RowWise. */
final readonly class FittedTerms implements FittedStep
{
    /** @param array<array-key, float> $idf inverse document frequency, ln((1 + n)/(1 + df)) + 1, by term */
    public function __construct(private string $column, private array $idf, private string $as, private bool $pairs, private bool $stop, private bool $keep)
    {
    }

    private function name(string|int $term): string
    {
        return $this->column.': '.$term;
    }

    /** @return array<array-key, string> the column made of each term */
    public function made(): array
    {
        $made = [];
        foreach (array_keys($this->idf) as $term) {
            $made[$term] = $this->name($term);
        }

        return $made;
    }

    public function apply(Table $table): Table
    {
        if (!$table->has($this->column)) {
            return $table;
        }
        $text = $table->column($this->column);
        $presence = TextTerms::PRESENCE === $this->as;
        // Texts repeat: each is taken apart once. The same list is shared by all rows that hold it.
        $known = $own = [];
        for ($row = 0; $row < $table->rows; ++$row) {
            $cell = $text->text($row);
            $own[] = null === $cell ? null : $known[$cell] ??= $this->weights($cell);
        }
        foreach ($this->made() as $term => $name) {
            $cells = [];
            if ($presence) {
                foreach ($own as $weights) {
                    $cells[] = null === $weights ? -1 : (isset($weights[$term]) ? 0 : 1);
                }
                $table = $table->with($name, new CodedColumn($cells, ['yes', 'no'], Kind::YesNo));
                continue;
            }
            foreach ($own as $weights) {
                $cells[] = null === $weights ? \NAN : $weights[$term] ?? 0.0;
            }
            $table = $table->with($name, new NumberColumn($cells));
        }

        return $this->keep ? $table : $table->without([$this->column]);
    }

    /** @return array<array-key, float> by term that stands in the text */
    private function weights(string $text): array
    {
        $counts = array_intersect_key(array_count_values(TextTerms::split($text, $this->pairs, $this->stop)), $this->idf);
        if (TextTerms::WEIGHT !== $this->as) {
            return array_map(floatval(...), $counts);
        }
        $weights = [];
        foreach ($counts as $term => $n) {
            $weights[$term] = $n * $this->idf[$term];
        }
        $norm = sqrt(array_sum(array_map(static fn (float $w) => $w * $w, $weights)));

        return array_map(static fn (float $w) => $w / $norm, $weights);
    }

    public function sentence(): string
    {
        return [] === $this->idf
            ? \sprintf('Makes nothing of %s: no word stands in so many of its texts.', $this->column)
            : \sprintf('Makes columns of %s of %s: %s.', Words::count(\count($this->idf), 'word'), $this->column, Words::listed(array_map(strval(...), array_keys($this->idf)), 6));
    }

    public function asks(array $wanted): array
    {
        return Asked::before($wanted, array_fill_keys($this->made(), [$this->column]));
    }

    public function toArray(): array
    {
        return ['step' => 'text_terms', 'column' => $this->column, 'idf' => $this->idf, 'as' => $this->as, 'pairs' => $this->pairs, 'stop' => $this->stop, 'keep' => $this->keep];
    }

    public static function fromArray(array $data): self
    {
        /** @var array{column: string, idf: array<array-key, float|int>, as: string, pairs: bool, stop: bool, keep: bool} $data */
        return new self($data['column'], array_map(floatval(...), $data['idf']), $data['as'], $data['pairs'], $data['stop'], $data['keep']);
    }
}
