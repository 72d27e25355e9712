<?php

declare(strict_types=1);

namespace Dokimos\Core\Design;

/** One column of the matrix: a number, "is this level" of a category, "is missing", or what the outcome is among records of its value. */
final readonly class Term
{
    /**
     * @param bool $missing 1 where the value is missing
     * @param ?int $mean    the place of the outcome whose mean among training rows of the same value stands here
     */
    public function __construct(public string $column, public ?string $level = null, public bool $missing = false, public ?int $mean = null, private string $ofWhat = '')
    {
    }

    public function name(): string
    {
        return $this->column.match (true) {
            $this->missing => ' (missing)',
            null !== $this->mean => ' ('.$this->ofWhat.')',
            null !== $this->level => '='.$this->level,
            default => '',
        };
    }

    /** @return array{column: string, level: ?string, missing?: bool, mean?: int, of?: string} */
    public function toArray(): array
    {
        return ['column' => $this->column, 'level' => $this->level] + ($this->missing ? ['missing' => true] : []) + (null === $this->mean ? [] : ['mean' => $this->mean, 'of' => $this->ofWhat]);
    }

    /** @param array{column: string, level: ?string, missing?: bool, mean?: int, of?: string} $data */
    public static function fromArray(array $data): self
    {
        return new self($data['column'], $data['level'], $data['missing'] ?? false, $data['mean'] ?? null, $data['of'] ?? '');
    }
}
