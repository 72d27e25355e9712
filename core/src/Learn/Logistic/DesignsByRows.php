<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Logistic;

/** Designs are made once for each list of rows: a choice of columns fits hundreds of models on two of them. */
final class DesignsByRows
{
    /** @var list<array{list<int>, LogisticDesign}> */
    private array $made = [];

    /** @param \Closure(list<int>): LogisticDesign $make */
    public function __construct(private readonly \Closure $make)
    {
    }

    /** @param list<int> $rows */
    public function on(array $rows): LogisticDesign
    {
        foreach ($this->made as [$own, $design]) {
            if ($own === $rows) {
                return $design;
            }
        }
        $this->made[] = [$rows, $design = ($this->make)($rows)];

        return $design;
    }
}
