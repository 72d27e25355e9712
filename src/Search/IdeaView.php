<?php

declare(strict_types=1);

namespace App\Search;

use Dokimos\Core\Guide\Weighed;

/** Something that might be made of the columns, with what it gained. */
final readonly class IdeaView
{
    /**
     * @param ?float $gain of the figure, in company of those kept before it, with the interval that holds for all ideas at once
     * @param string $for  which learners have it, once kept
     */
    public function __construct(
        public string $name,
        public string $from,
        public ?float $gain,
        public ?float $low,
        public ?float $high,
        public bool $kept,
        public ?string $why,
        public string $for,
    ) {
    }

    public static function of(Weighed $weighed): self
    {
        return new self(
            $weighed->idea->name,
            $weighed->idea->from,
            $weighed->gain,
            $weighed->low,
            $weighed->high,
            $weighed->kept,
            $weighed->why,
            $weighed->for,
        );
    }
}
