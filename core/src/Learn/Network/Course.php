<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Network;

/** How a network was trained: parameters of its best epoch, errors by epoch, and why it stopped. */
final readonly class Course
{
    /**
     * @param list<float>                                            $parameters
     * @param list<array{round: int, training: float, held: ?float}> $epochs
     * @param float                                                  $loss       of rows kept back at that epoch; of all that it learned
     *                                                                           from where there are none
     */
    public function __construct(
        public array $parameters,
        public array $epochs,
        public int $best,
        public float $loss,
        public string $why,
        public bool $ranAway,
    ) {
    }
}
