<?php

declare(strict_types=1);

namespace Dokimos\Core\Act;

use Dokimos\Core\Table\NumberColumn;

/** What a list says of a record of its own, as it is written: one form for files, databases and the command line. */
final class ListCells
{
    private const TIERS = ['I', 'II', 'III', 'IV'];

    /**
     * @param ?int $place on the list, from 1
     * @param bool $left  left untouched by draw
     * @param ?int $rank  tier, from 1 to 4
     *
     * @return array<string, ?string> by name
     */
    public static function of(?int $place, bool $left, ?float $chance, ?float $value, ?float $return, ?int $rank): array
    {
        $number = static fn (?float $v): ?string => null === $v ? null : NumberColumn::write((float) \sprintf('%.6G', $v));

        return [
            'place' => null === $place ? null : (string) $place,
            'assigned' => $left ? 'left untouched' : (null === $place ? 'not on the list' : 'act'),
            'tier' => null === $rank ? null : self::TIERS[$rank - 1],
            'chance' => $number($chance),
            'value' => $number($value),
            'return' => $number($return),
        ];
    }
}
