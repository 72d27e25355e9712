<?php

declare(strict_types=1);

namespace Dokimos\Core\Prepare;

use Dokimos\Core\Table\Table;

/**
 * Another order, or another treatment, of the same steps that does less harm. Nothing here is a rule of thumb alone: each alternative is
 * computed, and the difference in rows and cells is what is said.
 */
final readonly class Advice
{
    /** Alternatives that are computed at most. */
    private const MOST = 8;

    /**
     * @param list<array<string, mixed>> $steps the alternative, ready to be applied
     * @param int                        $rows  rows it keeps that are lost now
     * @param int                        $cells cells of kept rows that come out differently
     */
    private function __construct(public string $says, public array $steps, public int $rows, public int $cells)
    {
    }

    /**
     * @param list<array<string, mixed>> $steps    as stored
     * @param list<int>                  $training
     * @param ?list<float>               $event
     *
     * @return list<self> the one that keeps most rows first
     */
    public static function of(array $steps, Table $table, array $training, ?array $event): array
    {
        $now = self::learned($steps, $table, $training, $event);
        if (null === $now) {
            return [];
        }
        $found = [];
        $tried = 0;
        foreach (self::alternatives($steps) as [$other, $how]) {
            if (++$tried > self::MOST) {
                break;
            }
            $then = self::learned($other, $table, $training, $event);
            if (null === $then) {
                continue;
            }
            $rows = $then->learned->rows() - $now->learned->rows();
            $cells = self::differing($now->learned, $then->learned);
            if ($rows > 0 || 0 === $rows && $cells > 0 && !$how['onlyRows']) {
                $found[] = new self(\sprintf($how['says'], $rows > 0 ? \sprintf('would keep %s', Words::count($rows, 'row').' that '.(1 === $rows ? 'is' : 'are').' lost now') : \sprintf('would give %s another value', Words::count($cells, 'cell'))).self::learnedOtherwise($how, $steps, $now, $other, $then), $other, max(0, $rows), $cells);
            }
        }
        usort($found, static fn (self $a, self $b) => $b->rows <=> $a->rows ?: $b->cells <=> $a->cells);

        return $found;
    }

    /**
     * @param list<array<string, mixed>> $steps
     * @param list<int>                  $training
     * @param ?list<float>               $event
     */
    private static function learned(array $steps, Table $table, array $training, ?array $event): ?Learning
    {
        $learning = new Learning($table, $training, $event);
        try {
            foreach ($steps as $step) {
                if (true !== ($step['off'] ?? false)) {
                    $learning = $learning->after(Steps::fromSettings($step));
                }
            }
        } catch (CannotPrepare) {
            return null;
        }

        return $learning;
    }

    /**
     * @param list<array<string, mixed>> $steps
     *
     * @return iterable<array{list<array<string, mixed>>, array{says: string, onlyRows: bool, fill: ?int}}>
     */
    private static function alternatives(array $steps): iterable
    {
        foreach ($steps as $i => $early) {
            foreach ($steps as $j => $late) {
                $kinds = [self::kind($early), self::kind($late)];
                if ($j <= $i || \in_array('', $kinds, true)) {
                    continue;
                }
                $moved = $steps;
                unset($moved[$j]);
                array_splice($moved, $i, 0, [$late]);
                $what = match (true) {
                    'drop_rows' === $kinds[0] && 'fill_missing' === $kinds[1] => ['Filling first, step %d before step %d,', true],
                    'drop_rows' === $kinds[0] && \in_array($kinds[1], ['drop_columns', 'set_aside', 'keep_only', 'keep_strong'], true) => ['Leaving the columns out first, step %d before step %d,', true],
                    'fill_missing' === $kinds[0] && 'recode' === $kinds[1] => ['Recoding first, step %d before step %d, so that no code is averaged,', false],
                    'fill_missing' === $kinds[0] && 'outliers' === $kinds[1] => ['Treating outliers first, step %d before step %d,', false],
                    'bins' === $kinds[0] && 'fill_missing' === $kinds[1] => ['Filling before the bins are cut, step %d before step %d,', false],
                    'encode' === $kinds[0] && 'fill_missing' === $kinds[1] => ['Filling before encoding, step %d before step %d,', false],
                    default => null,
                };
                if (null !== $what) {
                    yield [array_values($moved), ['says' => \sprintf($what[0], $j + 1, $i + 1).' %s.', 'onlyRows' => $what[1], 'fill' => 'fill_missing' === $kinds[0] ? $i : null]];
                }
            }
            if ('drop_rows' === self::kind($early)) {
                $instead = $steps;
                $instead[$i] = ['step' => 'fill_missing', 'method' => FillMissing::MEDIAN, 'mark' => true] + array_intersect_key($early, ['columns' => 1, 'choose' => 1, 'note' => 1]);
                yield [$instead, ['says' => \sprintf('Filling what is missing instead of dropping its rows in step %d', $i + 1).' %s.', 'onlyRows' => true, 'fill' => null]];
            }
        }
    }

    /** @param array<string, mixed> $step */
    private static function kind(array $step): string
    {
        return \is_string($step['step'] ?? null) && true !== ($step['off'] ?? false) ? $step['step'] : '';
    }

    /**
     * What the fill learned now, and what it would learn.
     *
     * @param array{says: string, onlyRows: bool, fill: ?int} $how
     * @param list<array<string, mixed>>                      $steps
     * @param list<array<string, mixed>>                      $other
     */
    private static function learnedOtherwise(array $how, array $steps, Learning $now, array $other, Learning $then): string
    {
        if (null === $how['fill']) {
            return '';
        }
        $place = static fn (array $all, int $at): int => \count(array_filter(\array_slice($all, 0, $at), static fn (mixed $s) => !\is_array($s) || true !== ($s['off'] ?? false)));
        $a = $now->steps[$place($steps, $how['fill'])] ?? null;
        $b = $then->steps[$place($other, $how['fill'] + 1)] ?? null;
        if (!$a instanceof FittedFill || !$b instanceof FittedFill) {
            return '';
        }
        $said = $b->differing($a);

        return [] === $said ? '' : \sprintf(' The fill is then %s.', Words::listed($said));
    }

    /** Cells of rows kept in both that differ, in columns that both have. */
    private static function differing(Prepared $a, Prepared $b): int
    {
        $differing = 0;
        foreach ($a->table->columns() as $name => $column) {
            $other = $b->table->has((string) $name) ? $b->table->column((string) $name) : null;
            if (null === $other || $other === $column) {
                continue;
            }
            for ($row = 0; $row < $a->table->rows; ++$row) {
                $differing += isset($a->out[$row]) || isset($b->out[$row]) || $column->text($row) === $other->text($row) ? 0 : 1;
            }
        }

        return $differing;
    }
}
