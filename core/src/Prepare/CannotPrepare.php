<?php

declare(strict_types=1);

namespace Dokimos\Core\Prepare;

use Dokimos\Core\Refusal;

/** A step cannot be done; the message is a sentence for the analyst. */
final class CannotPrepare extends \RuntimeException implements Refusal
{
}
