<?php

declare(strict_types=1);

namespace Dokimos\Core\Decide;

/** What a word of a text does to answers. */
final readonly class WordEffect
{
    /**
     * @param string $word  the column that was made of it
     * @param float  $share of the records in which it stands
     * @param float  $with  mean answer with it in all records
     * @param float  $moves with less without, its interval that of the mean over records
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
