<?php

declare(strict_types=1);

namespace Dokimos\Core\Table;

/** What a column is for in a study. */
enum ColumnUse: string
{
    case Input = 'input';
    case Target = 'target';
    case Aside = 'set aside';
    case Key = 'key';
    case Weight = 'weight';
    case Split = 'split marker';
}
