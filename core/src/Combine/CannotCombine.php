<?php

declare(strict_types=1);

namespace Dokimos\Core\Combine;

/** A recipe that cannot be followed with these tables; the message says why. */
final class CannotCombine extends \DomainException
{
}
