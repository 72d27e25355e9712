<?php

declare(strict_types=1);

namespace Dokimos\Core\Select;

use Dokimos\Core\Table\Column;

/** Conditions of which all, or any, must hold. No conditions hold everywhere. */
final readonly class Conditions
{
    public const MOST = 12;

    /**
     * @param list<Condition> $conditions
     *
     * @throws UnclearCondition at most … conditions at once
     */
    public function __construct(public array $conditions, public bool $any = false)
    {
        if (\count($conditions) > self::MOST) {
            throw new UnclearCondition(\sprintf('At most %d conditions at once.', self::MOST));
        }
    }

    /**
     * From lists of column, relation and values, as addresses and steps keep them.
     *
     * @param list<mixed> $given
     *
     * @throws UnclearCondition A condition is a list of texts: column, relation, values. "…" is not a relation; choose one of: ….
     */
    public static function fromArray(array $given, bool $any = false): self
    {
        $conditions = [];
        foreach ($given as $words) {
            if (!\is_array($words) || !array_is_list($words) || \count($words) < 2 || [] !== array_filter($words, static fn (mixed $w) => !\is_string($w))) {
                throw new UnclearCondition('A condition is a list of texts: column, relation, values.');
            }
            /** @var non-empty-list<string> $words */
            $relation = Relation::tryFrom($words[1]) ?? throw new UnclearCondition(\sprintf('"%s" is not a relation; choose one of: %s.', $words[1], implode(', ', array_map(static fn (Relation $r) => $r->value, Relation::cases()))));
            $conditions[] = new Condition($words[0], $relation, \array_slice($words, 2));
        }

        return new self($conditions, $any);
    }

    /** @return list<string> the columns asked, each once */
    public function columns(): array
    {
        return array_values(array_unique(array_map(static fn (Condition $c) => $c->column, $this->conditions)));
    }

    public function sentence(): string
    {
        return implode($this->any ? ' or ' : ' and ', array_map(static fn (Condition $c) => $c->sentence(), $this->conditions));
    }

    /**
     * The numbers of the rows where they hold, ascending; and how many would hold without each one.
     *
     * @param \Closure(string): Column $column the cells of a column; called once per column
     * @param bool                     $strict a value that a column never holds is an error
     * @param list<int>                $except rows that are neither found nor counted
     *
     * @return array{list<int>, list<int>}
     */
    public function rows(\Closure $column, int $rows, bool $strict = true, array $except = []): array
    {
        $cells = $answers = [];
        foreach ($this->conditions as $condition) {
            $cells[$condition->column] ??= $column($condition->column);
            $answers[] = $condition->holds($cells[$condition->column], $strict);
        }
        $out = array_fill_keys($except, true);
        $found = [];
        $without = [];
        $failing = array_fill(0, $rows, 0);
        foreach ($answers as $holds) {
            foreach ($holds as $row => $yes) {
                if (!$yes) {
                    ++$failing[$row];
                }
            }
        }
        $count = \count($answers);
        foreach ($failing as $row => $fails) {
            if (isset($out[$row])) {
                continue;
            }
            if ($this->any ? $fails < $count || 0 === $count : 0 === $fails) {
                $found[] = $row;
            }
        }
        foreach ($answers as $holds) {
            $kept = 0;
            foreach ($holds as $row => $yes) {
                if (isset($out[$row])) {
                    continue;
                }
                // What the others say: one failure fewer when this one fails.
                $rest = $yes ? $failing[$row] : $failing[$row] - 1;
                $kept += ($this->any ? $rest < $count - 1 || 1 === $count : 0 === $rest) ? 1 : 0;
            }
            $without[] = $kept;
        }

        return [$found, $without];
    }
}
