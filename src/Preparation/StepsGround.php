<?php

declare(strict_types=1);

namespace App\Preparation;

use Dokimos\Core\Table\Table;

/** What steps are tried on: the columns that may serve, of all rows or of a sample, and which of these may be learned from. */
final readonly class StepsGround
{
    /**
     * @param float        $factor   rows of the table for one of the sample
     * @param list<int>    $training
     * @param ?list<float> $event    NAN for sealed rows; null before a target is chosen
     */
    public function __construct(public Table $table, public float $factor, public array $training, public ?array $event)
    {
    }
}
