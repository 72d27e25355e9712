<?php

declare(strict_types=1);

namespace Dokimos\Core\Combine;

/** How a table is made from others; kept, so that it can be followed again with new records. */
interface Combination
{
    /** What it does, in a sentence. */
    public function sentence(): string;

    /**
     * Which columns each column of the result is made from.
     *
     * @param list<string> $names columns of the table
     *
     * @return array<string, array{own: list<string>, other: list<string>}>
     */
    public function origins(array $names): array;

    /** @return array<string, mixed> */
    public function toArray(): array;
}
