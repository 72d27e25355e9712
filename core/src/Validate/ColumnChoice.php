<?php

declare(strict_types=1);

namespace Dokimos\Core\Validate;

/** Which of the columns that a preparation leaves a trial may use: some of them only, or all but some; by name, so that it holds for tables to come. */
final readonly class ColumnChoice
{
    /**
     * @param list<string> $names
     * @param bool         $without whether these are left out; else they are the only ones
     */
    public function __construct(public array $names, public bool $without)
    {
    }

    public function admits(string $name): bool
    {
        return \in_array($name, $this->names, true) !== $this->without;
    }

    /** @return array{names: list<string>, without: bool} */
    public function toArray(): array
    {
        return ['names' => $this->names, 'without' => $this->without];
    }

    /** @param array<string, mixed> $kept */
    public static function fromArray(array $kept): self
    {
        $names = \is_array($kept['names'] ?? null) ? array_filter($kept['names'], is_string(...)) : [];

        return new self(array_values($names), true === ($kept['without'] ?? null));
    }
}
