<?php

declare(strict_types=1);

namespace App\Decision;

use Dokimos\Core\Refusal;

/** A routine that cannot be done now; the message says why. */
final class CannotRun extends \RuntimeException implements Refusal
{
}
