<?php

declare(strict_types=1);

namespace Dokimos\Core\Calibrate;

use Dokimos\Core\Refusal;

/** Chances that cannot be held against what came, with a sentence for the analyst. */
final class CannotCalibrate extends \RuntimeException implements Refusal
{
}
