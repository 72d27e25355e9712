<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn;

use Dokimos\Core\Refusal;

/** The data do not allow this model; the message is a sentence for the analyst. */
final class CannotFit extends \RuntimeException implements Refusal
{
}
