<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Tree;

/** A node as it is read: how it divides, and the rows that grew it. */
final readonly class Node
{
    /**
     * @param list<float>   $counts      training weight of each class; for a number: weight, mean, sum of squared deviations
     * @param ?string       $column      null for a leaf
     * @param ?float        $threshold   values up to it go left; INF: all values do, what is missing goes right
     * @param ?list<string> $leftLevels  of a category; levels seen here stand in one of the two lists
     * @param ?list<string> $rightLevels
     * @param list<float>   $judged      as counts, of rows that did not grow the tree
     * @param bool          $missingSeen whether a row without a value grew this division
     * @param bool          $isDate      the threshold is in days since 1970
     */
    public function __construct(
        public int $depth,
        public array $counts,
        public float $impurity,
        public ?string $column = null,
        public ?float $threshold = null,
        public ?array $leftLevels = null,
        public ?array $rightLevels = null,
        public bool $missingLeft = false,
        public float $improvement = 0.0,
        public int $left = -1,
        public int $right = -1,
        public array $judged = [],
        public bool $isDate = false,
        public bool $missingSeen = true,
    ) {
    }

    public function isLeaf(): bool
    {
        return null === $this->column;
    }

    /** @param list<float> $counts */
    public function judgedBy(array $counts): self
    {
        return new self($this->depth, $this->counts, $this->impurity, $this->column, $this->threshold, $this->leftLevels, $this->rightLevels, $this->missingLeft, $this->improvement, $this->left, $this->right, $counts, $this->isDate, $this->missingSeen);
    }

    public function asLeaf(): self
    {
        return new self($this->depth, $this->counts, $this->impurity);
    }

    public function placed(int $left, int $right): self
    {
        return new self($this->depth, $this->counts, $this->impurity, $this->column, $this->threshold, $this->leftLevels, $this->rightLevels, $this->missingLeft, $this->improvement, $left, $right, $this->judged, $this->isDate, $this->missingSeen);
    }

    /** @return array<string, mixed> */
    public function toArray(): array
    {
        $out = ['depth' => $this->depth, 'counts' => $this->counts, 'impurity' => $this->impurity, 'judged' => $this->judged];
        if (null === $this->column) {
            return $out;
        }

        return $out + [
            'column' => $this->column,
            // JSON knows no infinity: null is "has a value at all".
            'threshold' => null === $this->threshold || is_infinite($this->threshold) ? null : $this->threshold,
            'left_levels' => $this->leftLevels,
            'right_levels' => $this->rightLevels,
            'missing' => $this->missingLeft ? 'left' : 'right',
            'improvement' => $this->improvement,
            'left' => $this->left,
            'right' => $this->right,
            'date' => $this->isDate,
            'missing_seen' => $this->missingSeen,
        ];
    }

    /** @param array<string, mixed> $data */
    public static function fromArray(array $data): self
    {
        /** @var array{depth: int, counts: list<float|int>, impurity: float|int, judged: list<float|int>, column?: string|int, threshold?: float|int|null, left_levels?: ?list<string>, right_levels?: ?list<string>, missing?: string, improvement?: float|int, left?: int, right?: int, date?: bool, missing_seen?: bool} $data */
        $counts = array_map(floatval(...), $data['counts']);
        $judged = array_map(floatval(...), $data['judged']);
        $levels = $data['left_levels'] ?? null;

        return !isset($data['column'])
            ? new self($data['depth'], $counts, (float) $data['impurity'], judged: $judged)
            : new self($data['depth'], $counts, (float) $data['impurity'], (string) $data['column'], null !== $levels ? null : (float) ($data['threshold'] ?? \INF), $levels, $data['right_levels'] ?? null, 'left' === ($data['missing'] ?? ''), (float) ($data['improvement'] ?? 0.0), $data['left'] ?? -1, $data['right'] ?? -1, $judged, $data['date'] ?? false, $data['missing_seen'] ?? true);
    }
}
