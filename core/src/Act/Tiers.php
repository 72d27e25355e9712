<?php

declare(strict_types=1);

namespace Dokimos\Core\Act;

/**
 * Records by chance and by value, each in bands whose edges are set by hand; a record on an edge belongs to the higher band. Definition:
 * docs/methods/action-list.md.
 */
final readonly class Tiers
{
    /**
     * @param list<float> $chances edges, rising
     * @param list<float> $values  edges, rising; none where all are worth the same
     */
    public function __construct(public array $chances, public array $values)
    {
        foreach ([$chances, $values] as $edges) {
            $sorted = $edges;
            sort($sorted);
            if ($sorted !== $edges || \count(array_unique($edges)) !== \count($edges)) {
                throw new WrongEdges('Edges of tiers rise from one to the next.');
            }
        }
    }

    /**
     * @param list<float> $edges
     *
     * @return int from 0, the lowest band, on
     */
    private static function band(array $edges, float $at): int
    {
        $band = 0;
        foreach ($edges as $edge) {
            $band += $at >= $edge ? 1 : 0;
        }

        return $band;
    }

    /** @return array{int, int} the band of its chance and of its value */
    public function of(float $chance, float $value): array
    {
        return [self::band($this->chances, $chance), self::band($this->values, $value)];
    }

    /**
     * From 1, the first, to 4: the chance counts double, since it moves the return of every record of the band.
     */
    public function rank(int $chance, int $value): int
    {
        if ([] === $this->values) {
            return min(4, \count($this->chances) - $chance + 1);
        }
        $place = [] === $this->chances ? 1.0 : $chance / \count($this->chances);
        $score = 2 * $place + $value / \count($this->values);

        return match (true) {
            $score >= 2.5 => 1,
            $score >= 2.0 => 2,
            $score >= 1.5 => 3,
            default => 4,
        };
    }

    /**
     * Rows of each cell, the lowest chance first and within it the lowest value.
     *
     * @param list<float> $chances
     * @param list<float> $values
     * @param list<int>   $rows
     *
     * @return list<list<list<int>>>
     */
    public function cells(array $chances, array $values, array $rows): array
    {
        $cells = array_fill(0, \count($this->chances) + 1, array_fill(0, \count($this->values) + 1, []));
        [$byChance, $byValue] = [$this->chances, $this->values];
        foreach ($rows as $row) {
            // of(), written out: this loop goes over millions.
            $c = $v = 0;
            foreach ($byChance as $edge) {
                $c += $chances[$row] >= $edge ? 1 : 0;
            }
            foreach ($byValue as $edge) {
                $v += $values[$row] >= $edge ? 1 : 0;
            }
            $cells[$c][$v][] = $row;
        }

        return array_map(static fn (array $c): array => array_values($c), array_values($cells));
    }

    /**
     * How many rows lie in each cell, in the order of cells().
     *
     * @param list<float> $chances
     * @param list<float> $values
     * @param list<int>   $rows
     *
     * @return list<list<int>>
     */
    public function counts(array $chances, array $values, array $rows): array
    {
        [$byChance, $byValue] = [$this->chances, $this->values];
        $width = \count($byValue) + 1;
        $counts = array_fill(0, (\count($byChance) + 1) * $width, 0);
        foreach ($rows as $row) {
            $cell = 0;
            $at = $chances[$row];
            foreach ($byChance as $edge) {
                if ($at < $edge) {
                    break;
                }
                $cell += $width;
            }
            $at = $values[$row];
            foreach ($byValue as $edge) {
                if ($at < $edge) {
                    break;
                }
                ++$cell;
            }
            ++$counts[$cell];
        }

        return array_chunk($counts, $width);
    }
}
