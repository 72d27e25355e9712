<?php

declare(strict_types=1);

namespace Dokimos\Core\Expression;

/** A step of a preparation that can be taken away. */
interface AsFrame
{
    /** @throws CannotExpress when it cannot as it was set */
    public function frame(Frame $frame): Frame;
}
