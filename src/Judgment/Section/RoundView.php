<?php

declare(strict_types=1);

namespace App\Judgment\Section;

use Dokimos\Core\Learn\ShowsCourse;

/** The error after so many rounds, on rows that were learned from and on rows that were not. */
final readonly class RoundView
{
    public function __construct(public int $round, public ?float $training, public ?float $validation)
    {
    }

    /** @return list<self> */
    public static function all(ShowsCourse $model): array
    {
        return array_map(static fn (array $c): self => new self($c['round'], $c['training'], $c['held']), $model->course());
    }
}
