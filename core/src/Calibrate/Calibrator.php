<?php

declare(strict_types=1);

namespace Dokimos\Core\Calibrate;

use Dokimos\Core\Expression\Expression;

/** Makes of a chance that a model gives the chance that it comes true with, as learned from answers on rows it had not seen. */
interface Calibrator
{
    /** @param float $chance from 0 to 1; NAN stays NAN */
    public function of(float $chance): float;

    /** The same, written out. */
    public function expression(Expression $chance): Expression;

    /** @return array<string, mixed> with what Calibration::read() makes it again, to the last bit */
    public function toArray(): array;
}
