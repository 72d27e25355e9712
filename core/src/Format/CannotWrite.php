<?php

declare(strict_types=1);

namespace Dokimos\Core\Format;

use Dokimos\Core\Refusal;

/** A table that cannot be written; the message says why and what was changed: nothing. */
final class CannotWrite extends \RuntimeException implements Refusal
{
}
