<?php

declare(strict_types=1);

namespace Dokimos\Core\Guide;

use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\Kind;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Table;

/**
 * What learners need that follow a number in a straight line and take a category value by value: ranges of numbers whose effect bends, and
 * one
 * number for a category of many values. Definition: docs/methods/guided-search.md.
 */
final class StraightIdeas
{
    private const RANGES = 6;
    /** From so many values on a category may be better told by one number. */
    private const MANY = 20;
    /** What a straight line leaves over has to exceed chance by so many standard errors to be thought of. */
    private const CLEAR = 2.0;

    /**
     * @param Table             $table    prepared
     * @param list<string>      $names    columns that may serve
     * @param list<int>         $rows     that the residuals are of
     * @param list<list<float>> $residual of each of these rows, one list for each class looked at
     *
     * @return list<Idea> numbers that bend most first, then categories of many values
     */
    public static function of(Table $table, array $names, array $rows, array $residual, int $most): array
    {
        $bends = $ideas = [];
        foreach ($names as $name) {
            $column = $table->column($name);
            if ($column instanceof NumberColumn) {
                $cells = Cells::of($column, $rows);
                $z = null === $cells ? 0.0 : Cells::most($residual, static fn (array $r): float => Cells::alone($cells, $r));
                if (null !== $cells && \count($cells['edges']) > 1 && $z >= self::CLEAR) {
                    $bends[$name] = $z;
                }
            } elseif ($column instanceof CodedColumn && Kind::Category === $column->kind() && \count($column->levels) >= self::MANY) {
                $ideas[] = new Idea(
                    $name.' as one number',
                    'what each value of '.$name.' says of the target, as one number',
                    [['step' => 'encode', 'columns' => [$name], 'method' => 'share of the event']],
                    [$name],
                );
            }
        }
        arsort($bends);
        $ranges = array_map(static fn (string $name): Idea => new Idea(
            $name.' in ranges',
            'ranges of '.$name.', whose effect bends',
            [['step' => 'bins', 'columns' => [$name], 'method' => 'equal frequency', 'bins' => self::RANGES]],
            [$name],
        ), array_map(strval(...), array_keys($bends)));

        return \array_slice([...$ranges, ...$ideas], 0, $most);
    }
}
