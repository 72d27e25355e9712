<?php

declare(strict_types=1);

namespace Dokimos\Core\Findings;

/** How much harm a finding does when nobody looks at it. */
enum Severity: string
{
    /** A model or a figure would mislead. */
    case High = 'high';
    /** A column needs treatment or a decision. */
    case Medium = 'medium';
    /** Good to know. */
    case Low = 'low';
}
