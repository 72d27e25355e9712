<?php

declare(strict_types=1);

namespace Dokimos\Core\Explain;

use Dokimos\Core\Learn\Tree\OpenTree;
use Dokimos\Core\Table\Table;

/**
 * Shares the answer of a sum of trees out among players, exactly, against background records: v(S) is the mean answer with the columns of S
 * from
 * the record and all others from a background record. Per leaf it is laid down once which background records meet the conditions of which
 * players; a record then asks only how many patterns there are, not how many records. Definition: docs/methods/accounts.md.
 */
final class LeafAccount implements SharesOut
{
    /** @var list<array{tree: int, value: float, players: list<int>, path: list<array{int, bool, int}>, patterns: array<int, float>}> */
    private array $leaves = [];
    private float $base;
    /** @var array<int, array<int, array<int, float>>> weight of a player in the leaf, by how many on either side */
    private array $shares = [];

    /**
     * @param list<OpenTree>     $trees
     * @param float              $start      the sum before the first tree
     * @param array<string, int> $players    player of each column
     * @param Table              $background prepared as the trees ask
     */
    public function __construct(private readonly array $trees, float $start, array $players, Table $background)
    {
        $this->base = $start;
        $n = $background->rows;
        foreach ($trees as $t => $tree) {
            $decisions = [];
            for ($row = 0; $row < $n; ++$row) {
                $decisions[] = $tree->decisions($background, $row);
            }
            foreach ($tree->leaves() as $leaf) {
                $own = [];
                $path = [];
                foreach ($leaf['path'] as [$node, $left]) {
                    $player = $players[(string) $tree->nodes[$node]['column']];
                    $own[$player] ??= \count($own);
                    $path[] = [$node, $left, 1 << $own[$player]];
                }
                $patterns = [];
                foreach ($decisions as $of) {
                    $mask = self::met($path, $of, (1 << \count($own)) - 1);
                    $patterns[$mask] = ($patterns[$mask] ?? 0.0) + 1.0 / $n;
                }
                // Records that meet all conditions answer with this leaf.
                $this->base += $leaf['value'] * ($patterns[(1 << \count($own)) - 1] ?? 0.0);
                $this->leaves[] = [
                    'tree' => $t,
                    'value' => $leaf['value'],
                    'players' => array_keys($own),
                    'path' => $path,
                    'patterns' => $patterns,
                ];
            }
        }
    }

    /**
     * @param list<array{int, bool, int}> $path
     * @param list<bool>                  $decisions
     *
     * @return int the players all of whose conditions are met, as bits
     */
    private static function met(array $path, array $decisions, int $all): int
    {
        foreach ($path as [$node, $left, $bit]) {
            if ($decisions[$node] !== $left) {
                $all &= ~$bit;
            }
        }

        return $all;
    }

    public function base(): float
    {
        return $this->base;
    }

    public function of(Table $table, int $row, int $players): array
    {
        $out = array_fill(0, $players, 0.0);
        $decisions = [];
        foreach ($this->trees as $tree) {
            $decisions[] = $tree->decisions($table, $row);
        }
        foreach ($this->leaves as ['tree' => $t, 'value' => $value, 'players' => $own, 'path' => $path, 'patterns' => $patterns]) {
            $all = (1 << \count($own)) - 1;
            $mask = self::met($path, $decisions[$t], $all);
            foreach ($patterns as $other => $share) {
                // Where neither meets a condition the leaf is out of reach; where both do the player does not matter.
                if (($mask | $other) !== $all || $mask === $other) {
                    continue;
                }
                $mine = $mask & ~$other;
                $others = $other & ~$mask;
                [$a, $b] = [Shapley::size($mine), Shapley::size($others)];
                $weight = $share * $value;
                [$plus, $minus] = $this->shares[$a][$b] ??= self::shares($a, $b);
                foreach ($own as $k => $player) {
                    if (($mine >> $k & 1) === 1) {
                        $out[$player] += $weight * $plus;
                    } elseif (($others >> $k & 1) === 1) {
                        $out[$player] -= $weight * $minus;
                    }
                }
            }
        }

        return array_values($out);
    }

    /** @return array{float, float} (a - 1)! b! / (a + b)! of one that must be the record's, a! (b - 1)! / (a + b)! of the others */
    private static function shares(int $a, int $b): array
    {
        $factorial = static function (int $n): float {
            $f = 1.0;
            for ($k = 2; $k <= $n; ++$k) {
                $f *= $k;
            }

            return $f;
        };

        return [
            $a > 0 ? $factorial($a - 1) * $factorial($b) / $factorial($a + $b) : 0.0,
            $b > 0 ? $factorial($a) * $factorial($b - 1) / $factorial($a + $b) : 0.0,
        ];
    }
}
