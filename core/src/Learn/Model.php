<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn;

use Dokimos\Core\Table\Table;

/** A fitted learner. Immutable; written to and read from JSON without loss. */
interface Model
{
    /**
     * A number, or the chance of the last class: of two, the event.
     *
     * @param ?list<int> $rows all rows when null
     *
     * @return list<float> one per asked row; NAN where the model cannot answer because a value is missing
     */
    public function predict(Table $table, ?array $rows = null): array;

    /** @return list<string> the prepared columns that it reads */
    public function columns(): array;

    /** How much there is to read, such as "31 terms" or "12 leaves"; empty when there is nothing. */
    public function size(): string;

    /** @return list<string> what the analyst should know about this fit, in sentences */
    public function notes(): array;

    /** @return array<string, mixed> */
    public function toArray(): array;

    /**
     * What toArray() wrote, read back without loss.
     *
     * @param array<string, mixed> $data
     */
    public static function fromArray(array $data): self;
}
