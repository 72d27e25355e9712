<?php

declare(strict_types=1);

namespace Dokimos\Core\TakeAway;

/** Writes messages of Protocol Buffers: whole numbers as varints, all else with its length before it. */
final class Protobuf
{
    private string $bytes = '';

    public function whole(int $field, int $value): self
    {
        $this->bytes .= self::varint($field << 3).self::varint($value);

        return $this;
    }

    public function bytes(int $field, string $value): self
    {
        $this->bytes .= self::varint($field << 3 | 2).self::varint(\strlen($value)).$value;

        return $this;
    }

    public function message(int $field, self $of): self
    {
        return $this->bytes($field, $of->bytes);
    }

    /** @param list<int> $values packed */
    public function wholes(int $field, array $values): self
    {
        return $this->bytes($field, implode('', array_map(self::varint(...), $values)));
    }

    public function written(): string
    {
        return $this->bytes;
    }

    private static function varint(int $v): string
    {
        $out = '';
        // Negative numbers take all ten bytes.
        do {
            $byte = $v & 0x7F;
            $v = $v >> 7 & 0x01FFFFFFFFFFFFFF;
            $out .= \chr(0 !== $v ? $byte | 0x80 : $byte);
        } while (0 !== $v);

        return $out;
    }
}
