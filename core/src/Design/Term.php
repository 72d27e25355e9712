<?php

declare(strict_types=1);

namespace Dokimos\Core\Design;

/** One column of the matrix: a number, "is this level" of a category, "is missing", or what the outcome is among records of its value. */
final readonly class Term
{
    /**
     * @param bool $missing 1 where the value is missing
     * @param ?int $mean    the place of the outcome whose mean among training rows of the same value stands here
     * @param bool $onward  1 at the level and at those after it in order
     * @param bool $others  1 at values that are rare or were never seen
     * @param ?int $bend    which of the terms by which a number bends, from 1 on
     */
    public function __construct(
        public string $column,
        public ?string $level = null,
        public bool $missing = false,
        public ?int $mean = null,
        private string $ofWhat = '',
        public bool $onward = false,
        public bool $others = false,
        public ?int $bend = null,
    ) {
    }

    public function name(): string
    {
        return $this->column.match (true) {
            $this->missing => ' (missing)',
            $this->others => ' (rare)',
            null !== $this->mean => ' ('.$this->ofWhat.')',
            null !== $this->bend => ' (bend '.$this->bend.')',
            null !== $this->level => ($this->onward ? '>=' : '=').$this->level,
            default => '',
        };
    }

    /** @return array{column: string, level: ?string, missing?: bool, mean?: int, of?: string, onward?: bool, others?: bool, bend?: int} */
    public function toArray(): array
    {
        return [
            'column' => $this->column,
            'level' => $this->level,
        ]
            + array_filter(['missing' => $this->missing, 'onward' => $this->onward, 'others' => $this->others, 'bend' => $this->bend])
            + (null === $this->mean ? [] : ['mean' => $this->mean, 'of' => $this->ofWhat]);
    }

    /**
     * @param array{column: string, level: ?string, missing?: bool, mean?: int, of?: string, onward?: bool, others?: bool, bend?: int} $data
     */
    public static function fromArray(array $data): self
    {
        return new self(
            $data['column'],
            $data['level'],
            $data['missing'] ?? false,
            $data['mean'] ?? null,
            $data['of'] ?? '',
            $data['onward'] ?? false,
            $data['others'] ?? false,
            $data['bend'] ?? null,
        );
    }
}
