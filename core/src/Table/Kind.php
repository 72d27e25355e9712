<?php

declare(strict_types=1);

namespace Dokimos\Core\Table;

/** What the cells of a column are. */
enum Kind: string
{
    case Number = 'number';
    case Category = 'category';
    case YesNo = 'yes/no';
    case Date = 'date';
    case Text = 'text';
    case Identifier = 'identifier';

    /** Whether cells are one of a short list of values. */
    public function isCoded(): bool
    {
        return self::Category === $this || self::YesNo === $this;
    }
}
