<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn;

/** A model that shows something in tables of its own: what no other section of a trial's page is made for. */
interface ShowsTables extends Model
{
    /** @return list<ShownTable> in the order they are read */
    public function shownTables(): array;
}
