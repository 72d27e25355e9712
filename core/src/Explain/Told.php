<?php

declare(strict_types=1);

namespace Dokimos\Core\Explain;

use Dokimos\Core\Learn\Scale;

/** One answer shared out among players: base and values add up to it. */
final readonly class Told
{
    /**
     * @param float                        $base    mean answer for the background records; shared out from another scale the answer at the
     *                                              mean of its sums
     * @param float                        $answer  for the record
     * @param list<float>                  $values  per player
     * @param list<non-empty-list<string>> $players the columns of each; of one where nothing is made of several
     * @param list<float>                  $errors  standard error of each from drawing orders, the background taken as given; nothing
     *                                              where it is exact
     * @param int                          $orders  drawn in all; 0 = exact
     * @param list<float>                  $own     values on the model's own scale, where that is another and they are exact there
     */
    public function __construct(
        public float $base,
        public float $answer,
        public array $values,
        public array $errors,
        public array $players,
        public int $orders,
        public array $own = [],
        public float $ownBase = 0.0,
        public Scale $scale = Scale::AsItIs,
    ) {
    }
}
