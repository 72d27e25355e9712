<?php

declare(strict_types=1);

namespace Dokimos\Core\Math;

/** A symmetric matrix without a Cholesky factor. */
final class NotPositiveDefinite extends \DomainException
{
}
