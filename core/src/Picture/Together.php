<?php

declare(strict_types=1);

namespace Dokimos\Core\Picture;

use Dokimos\Core\Math\Holm;
use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\Column;
use Dokimos\Core\Table\Table;
use Dokimos\Core\Table\TextColumn;

/** What goes together: every pair of columns, the columns ordered so that like stands by like. */
final readonly class Together
{
    /** Pairs are measured on so many records: a strength of 0.1 is known to two digits then. */
    public const SAMPLE = 10000;
    private const MOST_LEVELS = 60;
    /** More columns make no legible map, and their pairs too much to keep. */
    public const MOST_COLUMNS = 200;

    /**
     * @param list<string>                             $order   columns as the map shows them
     * @param list<Pair>                               $pairs   the strongest first
     * @param list<array{column: string, why: string}> $leftOut
     * @param int                                      $records so many records were looked at
     */
    private function __construct(public array $order, public array $pairs, public array $leftOut, public int $records)
    {
    }

    /** @param ?string $first the column that shall stand first, mostly the target */
    public static function of(Table $table, ?string $first = null): self
    {
        if ($table->rows > self::SAMPLE) {
            $step = $table->rows / self::SAMPLE;
            $table = $table->take(array_map(static fn (int $i) => (int) ($i * $step), range(0, self::SAMPLE - 1)));
        }
        $columns = $leftOut = [];
        foreach ($table->columns() as $name => $column) {
            $why = \count($columns) >= self::MOST_COLUMNS ? 'beyond the first 200' : self::whyNot($column);
            if (null === $why) {
                $columns[] = Operand::of((string) $name, $column);
            } else {
                $leftOut[] = ['column' => (string) $name, 'why' => $why];
            }
        }
        $pairs = $p = [];
        foreach ($columns as $i => $second) {
            for ($j = 0; $j < $i; ++$j) {
                $pair = Strength::between($columns[$j], $second);
                if (null !== $pair) {
                    $pairs[] = $pair;
                    $p[] = $pair->p;
                }
            }
        }
        $adjusted = Holm::adjusted($p);
        $pairs = array_map(static fn (Pair $pair, int $i) => $pair->adjustedTo($adjusted[$i]), $pairs, array_keys($pairs));
        usort($pairs, static fn (Pair $a, Pair $b) => abs($b->strength) <=> abs($a->strength) ?: strcmp($a->first.$a->second, $b->first.$b->second));

        return new self(self::ordered(array_map(static fn (Operand $o) => $o->name, $columns), $pairs, $first), $pairs, $leftOut, $table->rows);
    }

    private static function whyNot(Column $column): ?string
    {
        if ($column instanceof TextColumn) {
            return $column->kind()->value;
        }
        if ($column->missing() === $column->count()) {
            return 'empty';
        }
        if (!$column instanceof CodedColumn) {
            return null;
        }
        $levels = \count(array_filter($column->counts()));

        return match (true) {
            $levels < 2 => 'constant',
            $levels > self::MOST_LEVELS => $levels.' different values',
            default => null,
        };
    }

    /**
     * Average-linkage clustering on 1 - |strength|; of two branches the one with the first column stands first, and each is turned so
     * that what is most alike touches.
     *
     * @param list<string> $names
     * @param list<Pair>   $pairs
     *
     * @return list<string>
     */
    private static function ordered(array $names, array $pairs, ?string $first): array
    {
        $k = \count($names);
        $at = array_flip($names);
        $like = array_fill(0, $k, array_fill(0, $k, 0.0));
        foreach ($pairs as $pair) {
            $i = $at[$pair->first];
            $j = $at[$pair->second];
            $like[$i][$j] = $like[$j][$i] = abs($pair->strength);
        }
        $own = $like;
        $groups = array_map(static fn (int $i) => [$i], range(0, max(0, $k - 1)));
        if ($k < 2) {
            return $names;
        }
        while (\count($groups) > 1) {
            $best = -1.0;
            $a = $b = 0;
            foreach ($groups as $i => $_) {
                foreach ($groups as $j => $_) {
                    if ($j >= $i) {
                        break;
                    }
                    if ($like[$i][$j] > $best) {
                        $best = $like[$i][$j];
                        [$a, $b] = [$j, $i];
                    }
                }
            }
            $left = $groups[$a];
            $right = $groups[$b];
            $sizes = [\count($left), \count($right)];
            foreach ($groups as $g => $_) {
                if ($g !== $a && $g !== $b) {
                    $like[$a][$g] = $like[$g][$a] = ($sizes[0] * $like[$a][$g] + $sizes[1] * $like[$b][$g]) / ($sizes[0] + $sizes[1]);
                }
            }
            $groups[$a] = self::joined($left, $right, $own);
            unset($groups[$b]);
        }
        $order = array_map(static fn (int $i) => $names[$i], array_values($groups)[0]);
        if (null !== $first && false !== $place = array_search($first, $order, true)) {
            // The end that is nearer to the first column becomes the beginning, and the column itself steps forward.
            $order = $place > $k / 2 ? array_reverse($order) : $order;
            $order = [$first, ...array_values(array_filter($order, static fn (string $name) => $name !== $first))];
        }

        return $order;
    }

    /**
     * @param list<int>                     $left
     * @param list<int>                     $right
     * @param array<int, array<int, float>> $like
     *
     * @return list<int>
     */
    private static function joined(array $left, array $right, array $like): array
    {
        $ways = [[$left, $right], [array_reverse($left), $right], [$left, array_reverse($right)], [array_reverse($left), array_reverse($right)]];
        $best = -1.0;
        $out = [];
        foreach ($ways as [$a, $b]) {
            $touch = $like[$a[\count($a) - 1]][$b[0]];
            if ($touch > $best) {
                $best = $touch;
                $out = [...$a, ...$b];
            }
        }

        return $out;
    }
}
