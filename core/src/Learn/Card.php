<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn;

/** What the others have to know of a learner, and no form shows. */
final readonly class Card
{
    /**
     * @param int                 $version      raised when the same settings and rows give another model: trials of before are stale then
     * @param class-string<Model> $model        reads its models back: fromArray()
     * @param int                 $copies       of eight bytes a cell, twice, that it holds of its matrix while fitting, as measured on a million rows of twenty columns and rounded up (docs/benchmarks-learners.md)
     * @param bool                $needsColumns whether there is anything to learn without a column
     */
    public function __construct(public int $version, public string $model, public int $copies, public bool $needsColumns = true)
    {
    }
}
