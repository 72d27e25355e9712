<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn;

/** A column of a table that a model shows of itself. */
final readonly class ShownColumn
{
    public const TEXT = 'text';
    public const NUMBER = 'number';
    public const SHARE = 'share';

    /** @param string $form how its cells are written: TEXT, NUMBER (with its interval where there is one) or SHARE (in percent) */
    public function __construct(public string $title, public string $form)
    {
    }
}
