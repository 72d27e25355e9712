<?php

declare(strict_types=1);

namespace Dokimos\Core\Prepare;

use Dokimos\Core\Table\Table;

/** A step with what it has learned. RowWise: each row is treated without a look at the others. */
interface FittedStep
{
    /** Treats the columns that are there; one that is absent is not asked for by anything after it. */
    public function apply(Table $table): Table;

    /** What it does, in a plain sentence with the values learned. */
    public function sentence(): string;

    /**
     * @param list<string> $wanted columns that are needed after it
     *
     * @return list<string> the columns that are needed before it
     */
    public function asks(array $wanted): array;

    /** @return array<string, mixed> with the key "step" */
    public function toArray(): array;

    /** @param array<string, mixed> $data */
    public static function fromArray(array $data): self;
}
