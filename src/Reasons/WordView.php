<?php

declare(strict_types=1);

namespace App\Reasons;

/** What a word of a text does to answers. */
final readonly class WordView
{
    /**
     * @param string $word  the column that was made of it
     * @param float  $share of the records in which it stands
     * @param float  $with  mean answer with it in all records
     * @param float  $moves with less without
     */
    public function __construct(
        public string $word,
        public float $share,
        public float $with,
        public float $without,
        public float $moves,
        public ?float $low,
        public ?float $high,
    ) {
    }
}
