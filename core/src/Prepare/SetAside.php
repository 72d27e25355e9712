<?php

declare(strict_types=1);

namespace Dokimos\Core\Prepare;

use Dokimos\Core\Table\Table;

/** Leaves columns out of everything that follows. */
final readonly class SetAside implements Step, FittedStep
{
    /** @param list<string> $columns */
    public function __construct(public array $columns)
    {
        if ([] === $columns) {
            throw new CannotPrepare('Choose at least one column to set aside.');
        }
    }

    public function fit(Table $table, array $training): self
    {
        foreach ($this->columns as $name) {
            if (!$table->has($name)) {
                throw new CannotPrepare(\sprintf('There is no column %s at this point; an earlier step may have set it aside.', $name));
            }
        }

        return $this;
    }

    /** A column that is not there is aside already: new records need not bring it. */
    public function apply(Table $table): Table
    {
        return $table->without($this->columns);
    }

    public function needs(): array
    {
        return [];
    }

    public function sentence(): string
    {
        return \sprintf('Sets %s aside.', Words::listed($this->columns));
    }

    public function toArray(): array
    {
        return ['step' => 'set_aside', 'columns' => $this->columns];
    }
}
