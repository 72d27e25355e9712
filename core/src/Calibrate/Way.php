<?php

declare(strict_types=1);

namespace Dokimos\Core\Calibrate;

/** How chances may be made to come true. */
final class Way
{
    public const NONE = 'as they come';
    public const SIGMOID = Sigmoid::NAME;
    public const ISOTONIC = Isotonic::NAME;
    public const BETTER = 'whichever does better';
    public const ALL = [self::NONE, self::SIGMOID, self::ISOTONIC, self::BETTER];
}
