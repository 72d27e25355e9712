<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Tree;

use Dokimos\Core\Expression\Frame;
use Dokimos\Core\Expression\TreeNode;
use Dokimos\Core\Expression\Trees;
use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\DateColumn;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Table;

/**
 * A tree whose questions and answers lie open, however its model keeps it: what accounts of single answers are made from.
 *
 * @phpstan-type OpenNode array{column: ?string, threshold: ?float, levels: array<array-key, bool>|null,
 *     missing: bool, left: int, right: int, value: float, cover: float, other?: bool}
 */
final readonly class OpenTree
{
    /**
     * The root first; a leaf has no column. A number up to the threshold goes left; a level goes left where the list says so;
     * a level that the list does not have goes left where other says so; a missing cell goes left where missing says so.
     *
     * @param list<array<string, mixed>> $nodes
     *
     * @phpstan-param list<OpenNode> $nodes
     */
    public function __construct(public array $nodes)
    {
    }

    /**
     * @param list<self> $trees
     *
     * @return Trees the same, to be taken away
     */
    public static function written(array $trees, float $start, Frame $frame): Trees
    {
        $all = $columns = [];
        foreach ($trees as $tree) {
            $own = [];
            foreach ($tree->nodes as $n) {
                if (null === $n['column']) {
                    $own[] = TreeNode::leaf($n['value']);
                    continue;
                }
                $columns[$n['column']] ??= $frame->column($n['column']);
                $own[] = null === $n['levels']
                    ? TreeNode::number($n['column'], $n['threshold'] ?? \INF, $n['missing'], $n['left'], $n['right'])
                    : TreeNode::texts($n['column'], $n['levels'], $n['other'] ?? false, $n['missing'], $n['left'], $n['right']);
            }
            $all[] = $own;
        }

        return new Trees($all, $start, $columns);
    }

    public function goesLeft(int $node, Table $table, int $row): bool
    {
        $of = $this->nodes[$node];
        $column = $table->column((string) $of['column']);
        if ($column->isMissing($row)) {
            return $of['missing'];
        }
        if (null !== $of['levels']) {
            return $of['levels'][(string) $column->text($row)] ?? $of['other'] ?? false;
        }
        $value = match (true) {
            $column instanceof NumberColumn => $column->values[$row],
            $column instanceof DateColumn => $column->seconds[$row] / DateColumn::DAY,
            $column instanceof CodedColumn => (float) $column->codes[$row],
            default => (float) $column->text($row),
        };

        return $value <= $of['threshold'];
    }

    /** @return list<bool> per node whether the record goes left there; false at a leaf */
    public function decisions(Table $table, int $row): array
    {
        $out = [];
        foreach ($this->nodes as $k => $node) {
            $out[] = null !== $node['column'] && $this->goesLeft($k, $table, $row);
        }

        return $out;
    }

    /**
     * The mean answer of training records that agree with the record in what is known of it: at other questions both branches, by the
     * training
     * rows they had.
     *
     * @param list<bool>          $decisions of the record
     * @param array<string, bool> $known     columns
     */
    public function worth(array $decisions, array $known, int $node = 0): float
    {
        $of = $this->nodes[$node];
        if (null === $of['column']) {
            return $of['value'];
        }
        if ($known[$of['column']] ?? false) {
            return $this->worth($decisions, $known, $decisions[$node] ? $of['left'] : $of['right']);
        }
        [$left, $right] = [$this->nodes[$of['left']]['cover'], $this->nodes[$of['right']]['cover']];

        $both = $left * $this->worth($decisions, $known, $of['left']) + $right * $this->worth($decisions, $known, $of['right']);

        return $both / ($left + $right);
    }

    /** @return list<array{value: float, path: list<array{int, bool}>}> per leaf its answer, and the questions before it with the side taken */
    public function leaves(): array
    {
        $out = [];
        /** @var list<array{int, list<array{int, bool}>}> $waiting */
        $waiting = [[0, []]];
        while ([] !== $waiting) {
            [$node, $path] = array_pop($waiting);
            $of = $this->nodes[$node];
            if (null === $of['column']) {
                $out[] = ['value' => $of['value'], 'path' => $path];
                continue;
            }
            $waiting[] = [$of['right'], [...$path, [$node, false]]];
            $waiting[] = [$of['left'], [...$path, [$node, true]]];
        }

        return $out;
    }
}
