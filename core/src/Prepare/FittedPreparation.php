<?php

declare(strict_types=1);

namespace Dokimos\Core\Prepare;

use Dokimos\Core\Table\Table;

/** Steps with what they learned; replayed on any table of the same columns. */
final readonly class FittedPreparation
{
    /**
     * @param list<FittedStep> $steps
     * @param list<Toll>       $tolls of the table it was learned on; empty when read back
     */
    public function __construct(public array $steps, public array $tolls = [])
    {
    }

    public function apply(Table $table): Table
    {
        foreach ($this->steps as $step) {
            $table = $step->apply($table);
        }

        return $table;
    }

    /** @return list<array<string, mixed>> */
    public function toArray(): array
    {
        return array_map(static fn (FittedStep $s) => $s->toArray(), $this->steps);
    }

    /** @param list<array<string, mixed>> $data */
    public static function fromArray(array $data): self
    {
        $steps = [];
        foreach ($data as $step) {
            if ('fill_missing' === $step['step']) {
                /** @var array{fills: array<string, float|int|string>, method: string, mark: bool, filled: int} $step */
                $steps[] = new FittedFill($step['fills'], $step['method'], $step['mark'], $step['filled']);
            } else {
                /** @var array{columns: list<string>} $step */
                $steps[] = new SetAside($step['columns']);
            }
        }

        return new self($steps);
    }
}
