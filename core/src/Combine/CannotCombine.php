<?php

declare(strict_types=1);

namespace Dokimos\Core\Combine;

use Dokimos\Core\Refusal;

/** A combination that cannot be followed with these tables; the message says why. */
final class CannotCombine extends \DomainException implements Refusal
{
}
