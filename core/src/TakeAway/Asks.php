<?php

declare(strict_types=1);

namespace Dokimos\Core\TakeAway;

use Dokimos\Core\Expression\Named;
use Dokimos\Core\Expression\TreeNode;
use Dokimos\Core\Expression\Trees;

/**
 * What the nodes of trees ask, worked out once a record where many nodes ask the same: a number with what is missing put below, or above,
 * all others, so that one comparison tells; and for each set of texts whether the record has one of them. A database that takes statements
 * apart step by step spends most of its time on such steps.
 */
final class Asks
{
    /** A table has no more columns than this, with those it has anyway. */
    private const MOST = 400;

    /** @var array<string, string> name of the helper by what it is */
    private array $helpers = [];

    /**
     * @param list<Trees>             $of
     * @param \Closure(Named): string $named what a query calls a column
     */
    public function __construct(private readonly Dialect $dialect, array $of, \Closure $named)
    {
        foreach ($of as $trees) {
            foreach ($trees->trees as $tree) {
                foreach ($tree as $node) {
                    $is = null === $node->column ? null : $this->helper($node, $named($trees->columns[$node->column]));
                    if (null !== $is && \count($this->helpers) < self::MOST) {
                        $this->helpers[$is] ??= 'h'.(\count($this->helpers) + 1);
                    }
                }
            }
        }
    }

    /** @return list<string> columns of a query that the trees are asked in */
    public function columns(): array
    {
        return array_map(static fn (string $is, string $as): string => $is.' AS '.$as, array_keys($this->helpers), $this->helpers);
    }

    /** What is worked out before for a node; null = nothing is. */
    private function helper(TreeNode $node, string $column): ?string
    {
        if (null !== $node->texts) {
            if ([] === $node->texts) {
                return null;
            }
            $in = $column.($node->others ? ' NOT IN ' : ' IN ').'('.implode(', ', array_map($this->dialect->text(...), $node->texts)).')';

            return "CASE WHEN $column IS NULL THEN ".($node->missing ? '1' : '0')." = 1 ELSE $in END";
        }

        return is_infinite((float) $node->threshold) ? null : "COALESCE($column, ".$this->dialect->endless($node->missing).')';
    }

    /** @return array{string, string} a condition that holds where a record goes left, and one that holds where it goes right */
    public function of(TreeNode $node, string $column): array
    {
        $helper = $this->helper($node, $column);
        $known = null === $helper ? null : $this->helpers[$helper] ?? null;
        if (null !== $known && null !== $node->texts) {
            return [$known, "NOT $known"];
        }
        if (null !== $known) {
            $at = $this->dialect->number((float) $node->threshold);

            return ["$known <= $at", "$known > $at"];
        }
        $holds = $this->plain($node, $column);

        return [$holds, $holds.' IS NOT TRUE'];
    }

    private function plain(TreeNode $node, string $column): string
    {
        if (null !== $node->texts) {
            $in = '('.implode(', ', array_map($this->dialect->text(...), $node->texts)).')';
            $holds = match (true) {
                [] === $node->texts => $node->others ? "$column IS NOT NULL" : '1 = 0',
                default => $column.($node->others ? ' NOT IN ' : ' IN ').$in,
            };
        } else {
            $holds = match ($node->threshold) {
                \INF => "$column IS NOT NULL",
                -\INF => '1 = 0',
                default => $column.' <= '.$this->dialect->number((float) $node->threshold),
            };
        }

        return $node->missing ? ('1 = 0' === $holds ? "($column IS NULL)" : "($holds OR $column IS NULL)") : "($holds)";
    }
}
