<?php

declare(strict_types=1);

namespace Dokimos\Core;

/** The work was asked to stop. */
final class Stopped extends \RuntimeException
{
}
