<?php

declare(strict_types=1);

namespace App\Service;

/** A column that a call gives. */
final readonly class ServiceFieldView
{
    /** @param list<string> $values that training had, of a category */
    public function __construct(
        public string $name,
        public string $kind,
        public array $values,
    ) {
    }
}
