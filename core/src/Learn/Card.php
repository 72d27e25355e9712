<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn;

/** What the others have to know of a learner, and no form shows. */
final readonly class Card
{
    /**
     * Bytes that a fit takes for each training row are measured (benchmarks/memory.php, docs/benchmarks-learners.md) and rounded up.
     *
     * @param int                       $version   raised when the same settings and rows give another model: trials of before are stale then
     * @param class-string<Model>       $model     reads its models back: fromArray()
     * @param int                       $perRow    bytes for each row
     * @param int                       $perColumn more for each column
     * @param int                       $perTerm   more for each term, where categories are read value by value
     * @param int                       $perClass  more for each of several classes
     * @param array<string, mixed>|null $searched  settings that a guided search draws from, as a search takes them; null = it does not try this learner
     * @param array<string, mixed>|null $scout     settings with which it judges ideas quickly and well; null = it does not
     * @param array<string, mixed>|null $straight  of a learner that follows a number in a straight line, settings with which it judges what
     *                                             such learners need
     */
    public function __construct(
        public int $version,
        public string $model,
        private int $perRow,
        private int $perColumn,
        private int $perTerm = 0,
        private int $perClass = 0,
        public ?array $searched = null,
        public ?array $scout = null,
        public ?array $straight = null,
    ) {
    }

    /** Bytes that a fit takes beside the table. */
    public function bytes(int $rows, int $columns, int $terms, int $classes): float
    {
        return (float) $rows * ($this->perRow + $this->perColumn * $columns + $this->perTerm * $terms + $this->perClass * $classes);
    }
}
