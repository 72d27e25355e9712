<?php

declare(strict_types=1);

namespace App\CommandLine;

use Dokimos\Core\Profile\Terms;
use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\Table;

/** What the words of a column of texts say, in the layout of the reference. */
final class TextFigures
{
    /**
     * @param list<string> $pairs numbers of two texts whose likeness is asked, as "1-2"
     *
     * @return array<string, mixed>
     */
    public static function of(Table $table, string $column, ?string $class, array $pairs): array
    {
        $cells = self::cells($table, $column);
        $terms = Terms::of($cells);
        $out = [];
        foreach ($terms->counts as $term => $count) {
            $out[] = [
                'term' => (string) $term,
                'count' => $count,
                'document_frequency' => $terms->texts[$term],
                'idf' => $terms->idf((string) $term),
            ];
        }
        $cosine = [];
        foreach ($pairs as $pair) {
            if (1 !== preg_match('/^(\d+)-(\d+)$/', $pair, $m) || (int) $m[1] < 1 || (int) $m[2] < 1 || max((int) $m[1], (int) $m[2]) > $table->rows) {
                throw new \InvalidArgumentException(\sprintf('"%s" is not a pair of records, such as 1-2.', $pair));
            }
            $cosine[$m[1].','.$m[2]] = $terms->cosine((int) $m[1] - 1, (int) $m[2] - 1);
        }
        $figures = [
            'documents' => $terms->documents,
            'vocabulary' => \count($terms->counts),
            'terms' => $out,
            'tfidf' => array_map(static fn (int $row) => ['id' => $row + 1, 'weights' => $terms->weights($row)], array_keys($cells)),
            'cosine' => $cosine,
        ];
        if (null === $class || '' === $class) {
            return $figures;
        }
        $coded = CodedColumn::fromCells(self::cells($table, $class));
        $classes = $coded->levels;
        sort($classes, \SORT_STRING);

        return $figures + ['classes' => $classes, 'chi2_top' => $terms->tellingOf($coded->codes, 15)];
    }

    /** @return list<?string> */
    private static function cells(Table $table, string $name): array
    {
        $column = $table->column($name);
        $cells = [];
        for ($row = 0; $row < $table->rows; ++$row) {
            $cells[] = $column->text($row);
        }

        return $cells;
    }
}
