<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Bayes;

use Dokimos\Core\Expression\Expression;
use Dokimos\Core\Expression\Frame;
use Dokimos\Core\Table\Column;

/** What a column by itself says of each class. Definitions: docs/methods/naive-bayes.md. */
interface Factor
{
    public function column(): string;

    /**
     * @param list<int> $rows
     *
     * @return list<list<float>> per class, one logarithm of the value's chance or density a row; 0 for all where it says nothing
     */
    public function logs(Column $column, array $rows): array;

    /** @return list<Expression> the same written out, per class */
    public function expressions(Frame $frame): array;

    /** @return list<array{string, float, list<float>}> values in words, their share of training rows, and their logarithm per class */
    public function values(): array;

    /** @return array<string, mixed> by the names of the reference, per class */
    public function parameters(int $class): array;

    /** @return array<string, mixed> */
    public function toArray(): array;
}
