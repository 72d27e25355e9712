<?php

declare(strict_types=1);

namespace Dokimos\Core\Prepare;

/** A step cannot be done; the message is a sentence for the analyst. */
final class CannotPrepare extends \RuntimeException
{
}
