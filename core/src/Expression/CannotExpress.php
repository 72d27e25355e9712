<?php

declare(strict_types=1);

namespace Dokimos\Core\Expression;

use Dokimos\Core\Refusal;

/** A step or a model that cannot be taken away, and why. */
final class CannotExpress extends \RuntimeException implements Refusal
{
}
