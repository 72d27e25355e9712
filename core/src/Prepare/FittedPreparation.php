<?php

declare(strict_types=1);

namespace Dokimos\Core\Prepare;

use Dokimos\Core\Table\Table;

/** Steps with what they learned; replayed on any table of the same columns. */
final readonly class FittedPreparation
{
    /**
     * @param list<FittedStep> $steps
     * @param list<Toll>       $tolls   of the table it was learned on; empty when read back
     * @param ?Prepared        $learned that table after all steps, training rows as they may be learned from; null when read back
     * @param list<int>        $rows    training rows that are left in it
     */
    public function __construct(public array $steps, public array $tolls = [], public ?Prepared $learned = null, public array $rows = [])
    {
    }

    public function apply(Table $table): Prepared
    {
        $prepared = new Prepared($table);
        foreach ($this->steps as $step) {
            $prepared = $prepared->after($step);
        }

        return $prepared;
    }

    /**
     * @param list<string> $wanted columns needed after all steps
     *
     * @return list<string> columns needed before the first
     */
    public function asks(array $wanted): array
    {
        foreach (array_reverse($this->steps) as $step) {
            $wanted = $step->asks($wanted);
        }

        return $wanted;
    }

    /** @return list<array<string, mixed>> */
    public function toArray(): array
    {
        return array_map(static fn (FittedStep $s) => $s->toArray(), $this->steps);
    }

    /** @param list<array<string, mixed>> $data */
    public static function fromArray(array $data): self
    {
        return new self(array_map(Steps::fitted(...), $data));
    }
}
