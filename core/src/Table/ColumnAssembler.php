<?php

declare(strict_types=1);

namespace Dokimos\Core\Table;

/** Puts a column together from its stored frames. */
final class ColumnAssembler
{
    /**
     * @param iterable<array{string, int}> $frames bytes and rows of each frame, in order
     * @param list<string>                 $levels
     */
    public static function assemble(Kind $kind, iterable $frames, array $levels): Column
    {
        $parts = [];
        foreach ($frames as [$bytes, $rows]) {
            $parts[] = match ($kind) {
                Kind::Number => FrameCodec::numbers($bytes, $rows),
                Kind::Text, Kind::Identifier => self::texts($bytes, $rows, $levels),
                default => FrameCodec::whole($bytes, $rows),
            };
        }
        $cells = array_merge([], ...$parts);
        if (Kind::Number === $kind) {
            /** @var list<float> $cells */
            return new NumberColumn($cells);
        }
        if (Kind::Date === $kind) {
            /** @var list<int> $cells */
            return new DateColumn($cells);
        }
        if ($kind->isCoded()) {
            $codes = [];
            foreach ($cells as $code) {
                $codes[] = \PHP_INT_MIN === $code ? -1 : $code;
            }

            /** @var list<int> $codes */
            return new CodedColumn($codes, $levels, $kind);
        }

        /** @var list<?string> $cells */
        return new TextColumn($cells, $kind);
    }

    /**
     * Text with few different values is kept as codes.
     *
     * @param list<string> $levels
     *
     * @return list<?string>
     */
    private static function texts(string $bytes, int $rows, array $levels): array
    {
        if (FrameCodec::isText($bytes)) {
            return FrameCodec::texts($bytes, $rows);
        }
        $out = [];
        foreach (FrameCodec::whole($bytes, $rows) as $code) {
            $out[] = \PHP_INT_MIN === $code ? null : $levels[$code];
        }

        return $out;
    }
}
