<?php

declare(strict_types=1);

namespace Dokimos\Core\Expression;

/** A question of a tree, or a leaf. */
final readonly class TreeNode implements \JsonSerializable
{
    /**
     * @param ?string       $column    null = a leaf
     * @param ?float        $threshold of a number; infinite where only what is missing is told apart
     * @param ?list<string> $texts     those that go left, or where $others those that go right
     * @param bool          $others    a text that is not in the list goes left
     * @param bool          $missing   what is missing goes left
     * @param int           $left      place of the node in its tree
     */
    private function __construct(
        public ?string $column,
        public ?float $threshold,
        public ?array $texts,
        public bool $others,
        public bool $missing,
        public int $left,
        public int $right,
        public float $value,
    ) {
    }

    public static function leaf(float $value): self
    {
        return new self(null, null, null, false, false, -1, -1, $value);
    }

    public static function number(string $column, float $threshold, bool $missing, int $left, int $right): self
    {
        return new self($column, $threshold, null, false, $missing, $left, $right, 0.0);
    }

    /** @param array<array-key, bool> $goesLeft by text */
    public static function texts(string $column, array $goesLeft, bool $others, bool $missing, int $left, int $right): self
    {
        $listed = array_map(strval(...), array_keys(array_filter($goesLeft, static fn (bool $is): bool => $is !== $others)));

        return new self($column, null, $listed, $others, $missing, $left, $right, 0.0);
    }

    /** The same behind so many other nodes. */
    public function moved(int $by): self
    {
        return null === $this->column ? $this : new self(
            $this->column,
            $this->threshold,
            $this->texts,
            $this->others,
            $this->missing,
            $this->left + $by,
            $this->right + $by,
            0.0,
        );
    }

    public function goesLeft(float|string|null $value): bool
    {
        if (null === $value || (\is_float($value) && is_nan($value))) {
            return $this->missing;
        }
        if (null !== $this->texts) {
            return \in_array((string) $value, $this->texts, true) !== $this->others;
        }

        return (float) $value <= $this->threshold;
    }

    /** @return array<string, mixed> an infinite threshold is written "all" or "none" */
    public function jsonSerialize(): array
    {
        if (null === $this->column) {
            return ['value' => $this->value];
        }
        $asks = null !== $this->texts
            ? ['texts' => $this->texts, 'listed' => $this->others ? 'right' : 'left']
            : ['up_to' => \INF === $this->threshold ? 'all' : (-\INF === $this->threshold ? 'none' : $this->threshold)];

        return [
            'column' => $this->column,
            ...$asks,
            'missing' => $this->missing ? 'left' : 'right',
            'left' => $this->left,
            'right' => $this->right,
        ];
    }
}
