<?php

declare(strict_types=1);

namespace Dokimos\Core\TakeAway;

use Dokimos\Core\Expression\TreeNode;
use Dokimos\Core\Expression\Trees;

/**
 * Trees as rows of two tables, one line a node and one line a text that a node names, and a query that walks down them by itself: for
 * ensembles that would be longer as cases than a database reads. It is some fifty times slower than cases.
 */
final class NodeTable
{
    private const PART = 400;
    /** @var \SplObjectStorage<Trees, int> */
    private \SplObjectStorage $known;

    public function __construct(private readonly Dialect $dialect)
    {
        /** @var \SplObjectStorage<Trees, int> $known */
        $known = new \SplObjectStorage();
        $this->known = $known;
    }

    /**
     * The sum for the record that is at hand.
     *
     * @param array<array-key, string> $columns by the name that nodes ask for, as the query knows them
     */
    public function sum(Trees $e, array $columns): string
    {
        $own = $this->number($e);
        $asked = $this->asked($e);
        $goes = [];
        foreach ($asked as $name => [$place, $isText]) {
            $c = $columns[$name];
            $named = "SELECT 1 FROM dokimos_texts t WHERE t.ensemble = $own AND t.tree = n.tree AND t.node = n.node AND t.word = $c";
            $goes[] = "WHEN $place THEN CASE WHEN $c IS NULL THEN n.missing ".($isText
                ? "WHEN EXISTS ($named) THEN 1 - n.others ELSE n.others END"
                : "WHEN $c <= n.threshold THEN 1 ELSE 0 END");
        }
        $side = [] === $goes ? '0' : 'CASE n.asks '.implode(' ', $goes).' ELSE 0 END';
        $at = "n.ensemble = $own AND n.tree = w.tree AND n.node = w.node";

        return "(WITH RECURSIVE walk(tree, node) AS (SELECT tree, node FROM dokimos_nodes WHERE ensemble = $own AND node = 0"
            ."\n UNION ALL SELECT n.tree, CASE WHEN $side = 1 THEN n.lft ELSE n.rgt END"
            ."\n FROM walk w JOIN dokimos_nodes n ON $at WHERE n.asks IS NOT NULL)"
            ."\n SELECT ".$this->dialect->number($e->start)." + SUM(n.value) FROM walk w JOIN dokimos_nodes n ON $at WHERE n.asks IS NULL)";
    }

    /** @return list<string> statements that make the tables; they go when the session ends */
    public function statements(): array
    {
        $number = Dialect::PostgreSql === $this->dialect ? 'float8' : 'REAL';
        $nodes = $texts = [];
        foreach ($this->known as $e) {
            $own = $this->known[$e];
            $asked = $this->asked($e);
            foreach ($e->trees as $tree => $list) {
                foreach ($list as $i => $node) {
                    $nodes[] = '('.implode(', ', [$own, $tree, $i, ...$this->cells($node, $asked)]).')';
                    foreach ($node->texts ?? [] as $text) {
                        $texts[] = "($own, $tree, $i, ".$this->dialect->text($text).')';
                    }
                }
            }
        }
        $out = [
            "CREATE TEMPORARY TABLE dokimos_nodes (ensemble integer, tree integer, node integer, asks integer, threshold $number, "
                ."others integer, missing integer, lft integer, rgt integer, value $number, PRIMARY KEY (ensemble, tree, node))",
            'CREATE TEMPORARY TABLE dokimos_texts (ensemble integer, tree integer, node integer, word text, '
                .'PRIMARY KEY (ensemble, tree, node, word))',
        ];
        foreach (['dokimos_nodes' => $nodes, 'dokimos_texts' => $texts] as $table => $rows) {
            foreach (array_chunk($rows, self::PART) as $part) {
                $out[] = "INSERT INTO $table VALUES\n".implode(",\n", $part);
            }
        }

        return $out;
    }

    private function number(Trees $e): int
    {
        if (!isset($this->known[$e])) {
            $this->known[$e] = $this->known->count() + 1;
        }

        return $this->known[$e];
    }

    /** @return array<array-key, array{int, bool}> place of each column that is asked, and whether it is a text */
    private function asked(Trees $e): array
    {
        $out = [];
        foreach ($e->trees as $tree) {
            foreach ($tree as $node) {
                if (null !== $node->column) {
                    $out[$node->column] ??= [\count($out), null !== $node->texts];
                }
            }
        }

        return $out;
    }

    /**
     * @param array<array-key, array{int, bool}> $asked
     *
     * @return list<int|string>
     */
    private function cells(TreeNode $node, array $asked): array
    {
        if (null === $node->column) {
            return ['NULL', 'NULL', 0, 0, 0, 0, $this->dialect->number($node->value)];
        }
        $threshold = match ($node->threshold) {
            null => 'NULL',
            \INF, -\INF => $this->dialect->endless($node->threshold < 0),
            default => $this->dialect->number($node->threshold),
        };

        return [
            $asked[$node->column][0],
            $threshold,
            (int) $node->others,
            (int) $node->missing,
            $node->left,
            $node->right,
            'NULL',
        ];
    }
}
