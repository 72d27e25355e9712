<?php

declare(strict_types=1);

namespace Dokimos\Core\Task;

use Dokimos\Core\Table\Column;

/** What a column says of an event. */
final class Events
{
    /** @return list<float> per row 1 for the event, 0 for other values, NAN where the cell is missing */
    public static function in(Column $cells, string $event): array
    {
        $out = [];
        for ($row = 0, $count = $cells->count(); $row < $count; ++$row) {
            $text = $cells->text($row);
            $out[] = null === $text ? \NAN : ($text === $event ? 1.0 : 0.0);
        }

        return $out;
    }
}
