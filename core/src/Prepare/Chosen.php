<?php

declare(strict_types=1);

namespace Dokimos\Core\Prepare;

use Dokimos\Core\Table\Kind;
use Dokimos\Core\Table\Table;

/** Columns by name, or by a condition that stays true when the table changes: "every number with missing cells". */
final readonly class Chosen
{
    /**
     * @param list<string>  $names
     * @param ?list<string> $kinds   by condition: columns of these kinds, or of any when the list is empty; null when chosen by name
     * @param bool          $missing by condition: only those with missing cells in training rows
     */
    private function __construct(public array $names, private ?array $kinds = null, private bool $missing = false)
    {
    }

    /** @param list<string> $names */
    public static function named(array $names): self
    {
        return new self($names);
    }

    /**
     * @param array<string, mixed> $data
     *
     * @throws CannotPrepare Columns are given by their names. Choose at least one column.
     */
    public static function fromArray(array $data): self
    {
        $choose = $data['choose'] ?? null;
        if (\is_array($choose)) {
            $kinds = array_values(array_filter(\is_array($choose['kinds'] ?? null) ? $choose['kinds'] : [], static fn (mixed $k) => \is_string($k) && null !== Kind::tryFrom($k)));
            /** @var list<string> $kinds */

            return new self([], $kinds, true === ($choose['missing'] ?? false));
        }
        $names = [];
        foreach (\is_array($data['columns'] ?? null) ? $data['columns'] : [] as $name) {
            $names[] = \is_string($name) ? $name : throw new CannotPrepare('Columns are given by their names.');
        }

        return [] === $names ? throw new CannotPrepare('Choose at least one column.') : new self($names);
    }

    /** The same without asking for missing cells: what is learned then serves columns that lack none yet. */
    public function whetherMissingOrNot(): self
    {
        return new self($this->names, $this->kinds, false);
    }

    public function isLasting(): bool
    {
        return null !== $this->kinds;
    }

    /**
     * The columns meant, as the table is now.
     *
     * @param list<int>  $rows  training rows, in which missing cells are looked for
     * @param list<Kind> $fit   kinds the step can treat; any when empty
     * @param string     $doing what cannot be done to others, as in "can be filled this way"
     *
     * @return list<string>
     *
     * @throws CannotPrepare … holds …; only … …
     */
    public function among(Table $table, array $rows, array $fit = [], string $doing = ''): array
    {
        if (null === $this->kinds) {
            foreach ($this->names as $name) {
                if (!$table->has($name)) {
                    throw self::absent($name);
                }
                if ([] !== $fit && !\in_array($table->column($name)->kind(), $fit, true)) {
                    throw new CannotPrepare(\sprintf('%s holds %s; only %s %s.', $name, $table->column($name)->kind()->value, Words::listed(array_map(static fn (Kind $k) => $k->value, $fit), 9), $doing));
                }
            }

            return $this->names;
        }
        $out = [];
        foreach ($table->names() as $name) {
            $column = $table->column($name);
            $kind = $column->kind();
            if (([] === $this->kinds || \in_array($kind->value, $this->kinds, true)) && ([] === $fit || \in_array($kind, $fit, true)) && (!$this->missing || [] !== array_filter($rows, $column->isMissing(...)))) {
                $out[] = $name;
            }
        }

        return $out;
    }

    public static function absent(string $name): CannotPrepare
    {
        return new CannotPrepare(\sprintf('There is no column %s at this point; an earlier step may have set it aside or renamed it.', $name));
    }

    /** @return array<string, mixed> */
    public function toArray(): array
    {
        return null === $this->kinds ? ['columns' => $this->names] : ['columns' => [], 'choose' => ['kinds' => $this->kinds, 'missing' => $this->missing]];
    }
}
