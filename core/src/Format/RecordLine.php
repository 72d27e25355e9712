<?php

declare(strict_types=1);

namespace Dokimos\Core\Format;

use Dokimos\Core\Table\Kind;

/** A record as a line of JSON: numbers are numbers, yes/no are true and false, and missing is null. */
final class RecordLine
{
    /**
     * @param list<string>  $names
     * @param list<Kind>    $kinds
     * @param list<?string> $cells
     */
    public static function of(array $names, array $kinds, array $cells): string
    {
        $object = new \stdClass();
        foreach ($names as $i => $name) {
            $cell = $cells[$i];
            $object->{$name} = match (true) {
                null === $cell => null,
                Kind::Number === $kinds[$i] => (float) $cell,
                Kind::YesNo === $kinds[$i] => CellParser::yesNo($cell) ?? $cell,
                default => $cell,
            };
        }

        return json_encode($object, \JSON_THROW_ON_ERROR | \JSON_UNESCAPED_UNICODE | \JSON_UNESCAPED_SLASHES)."\n";
    }
}
