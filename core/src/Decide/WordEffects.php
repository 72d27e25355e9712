<?php

declare(strict_types=1);

namespace Dokimos\Core\Decide;

use Dokimos\Core\Measure\Interval;
use Dokimos\Core\Prepare\Prepared;
use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\Column;
use Dokimos\Core\Table\Kind;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Table;

/**
 * A column of text through what preparation made of it: for each word the mean answer over records with the word and without it, everything
 * else as it is (partial dependence of the made column). Definition: docs/methods/effects.md.
 */
final class WordEffects
{
    private const MOST = 20;

    /**
     * @param Table $records columns as they came
     * @param ?int  $class   of several, whose chance is told
     *
     * @return list<WordEffect> those that move answers most, first; [] where the model reads nothing made of the text alone
     */
    public static function of(ScoringModel $model, Table $records, string $text, ?int $class): array
    {
        $prepared = $model->preparation->apply($records);
        $out = [];
        foreach ($model->model->columns() as $name) {
            $column = $prepared->table->has($name) ? $prepared->table->column($name) : null;
            $two = null === $column || $name === $text || [$text] !== $model->preparation->asks([$name]) ? null : self::two($column);
            if (null === $column || null === $two) {
                continue;
            }
            [$with, $without] = array_map(
                static fn (Column $of): array => self::answers($model, $prepared, $name, $of, $class),
                [$two['with'], $two['without']],
            );
            $known = array_keys(array_filter(
                $with,
                static fn (float $v, int $i): bool => !is_nan($v) && !is_nan($without[$i]),
                \ARRAY_FILTER_USE_BOTH,
            ));
            if ([] === $known) {
                continue;
            }
            $own = array_map(static fn (int $i): float => $with[$i], $known);
            $other = array_map(static fn (int $i): float => $without[$i], $known);
            $moves = Interval::mean(array_map(static fn (float $a, float $b): float => $a - $b, $own, $other));
            $out[] = new WordEffect(
                $name,
                $two['share'],
                array_sum($own) / \count($own),
                array_sum($other) / \count($other),
                (float) $moves->value,
                $moves->low,
                $moves->high,
            );
        }
        usort($out, static fn (WordEffect $a, WordEffect $b): int => abs($b->moves) <=> abs($a->moves) ?: strcmp($a->word, $b->word));

        return \array_slice($out, 0, self::MOST);
    }

    /**
     * The column as it is where the word stands in all records, and in none: of a number the mean of those in which it does.
     *
     * @return array{with: Column, without: Column, share: float}|null null for another kind, and where no record has it
     */
    private static function two(Column $column): ?array
    {
        $n = $column->count();
        if ($column instanceof NumberColumn) {
            $in = array_values(array_filter($column->values, static fn (float $v): bool => $v > 0.0));

            return [] === $in ? null : [
                'with' => new NumberColumn(array_fill(0, $n, array_sum($in) / \count($in))),
                'without' => new NumberColumn(array_fill(0, $n, 0.0)),
                'share' => \count($in) / $n,
            ];
        }
        if (!$column instanceof CodedColumn || Kind::YesNo !== $column->kind()) {
            return null;
        }
        $yes = \count(array_filter(range(0, max(0, $n - 1)), static fn (int $row): bool => 'yes' === $column->text($row)));
        $all = static fn (string $cell): Column => CodedColumn::fromCells(array_fill(0, $n, $cell), Kind::YesNo);

        return ['with' => $all('yes'), 'without' => $all('no'), 'share' => $yes / max(1, $n)];
    }

    /** @return list<float> */
    private static function answers(ScoringModel $model, Prepared $prepared, string $name, Column $column, ?int $class): array
    {
        $answers = $model->answersFor(new Prepared($prepared->table->with($name, $column), $prepared->out));

        return array_map(
            static fn (int $row): float => null === $class ? $answers->first($row) : $answers->ofClass($row, $class),
            range(0, max(0, $answers->rows() - 1)),
        );
    }
}
