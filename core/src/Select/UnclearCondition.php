<?php

declare(strict_types=1);

namespace Dokimos\Core\Select;

use Dokimos\Core\Refusal;

/** A condition that cannot be asked of a table; the message says what would do. */
final class UnclearCondition extends \DomainException implements Refusal
{
}
