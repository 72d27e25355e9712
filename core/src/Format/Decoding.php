<?php

declare(strict_types=1);

namespace Dokimos\Core\Format;

/**
 * The bytes of a text file as UTF-8 with LF or CRLF line ends. A few letters that are no letters in the encoding are replaced, and each line is
 * named; many of them tell that the encoding is another one.
 */
final class Decoding
{
    public const REPLACED = "\u{FFFD}";
    /** Lines with broken letters that are mended, at most. */
    private const MOST_BROKEN = 100;

    /** @var list<int> */
    private array $broken = [];

    /** @param iterable<string> $blocks in order */
    public function __construct(private readonly iterable $blocks, private readonly string $encoding, private readonly bool $carriageReturns)
    {
    }

    /** @return list<string> sentences */
    public function repairs(): array
    {
        return array_map(static fn (int $line): string => \sprintf('Line %s held letters that are not UTF-8; they stand as %s.', number_format($line), self::REPLACED), $this->broken);
    }

    /** @return \Generator<int, string> the same text as UTF-8, a block at a time */
    public function blocks(): \Generator
    {
        $carry = '';
        $first = true;
        $line = 1;
        foreach ($this->blocks as $block) {
            $bytes = $carry.$block;
            $keep = $this->unfinished($bytes);
            $carry = $keep > 0 ? substr($bytes, -$keep) : '';
            $bytes = $keep > 0 ? substr($bytes, 0, -$keep) : $bytes;
            $text = 'UTF-8' === $this->encoding ? $this->mended($bytes, $line) : (string) mb_convert_encoding($bytes, 'UTF-8', $this->encoding);
            if ($first && '' !== $text) {
                $text = str_starts_with($text, "\u{FEFF}") ? substr($text, 3) : $text;
                $first = false;
            }
            if (false !== $nul = strpos($text, "\0")) {
                throw UnreadableTable::binary($nul);
            }
            $line += substr_count($text, "\n");
            yield $this->carriageReturns ? str_replace("\r", "\n", $text) : $text;
        }
        if ('' !== $carry) {
            if ('UTF-8' !== $this->encoding) {
                throw UnreadableTable::brokenEncoding($line, $this->encoding);
            }
            yield $this->mended($carry, $line);
        }
    }

    /** How many bytes at the end belong to a letter that the block cuts in two. */
    private function unfinished(string $bytes): int
    {
        $length = \strlen($bytes);
        if (str_starts_with($this->encoding, 'UTF-16')) {
            // Two bytes, or twice two: of those the first two are from D800 to DBFF.
            $odd = $length % 2;
            $high = $length - $odd >= 2 ? \ord($bytes[$length - $odd - ('UTF-16LE' === $this->encoding ? 1 : 2)]) : 0;

            return $odd + ($high >= 0xD8 && $high <= 0xDB ? 2 : 0);
        }
        if ('UTF-8' !== $this->encoding) {
            return 0;
        }
        for ($i = 1; $i <= 3 && $i <= $length; ++$i) {
            $byte = \ord($bytes[$length - $i]);
            if ($byte >= 0xC0) {
                $need = $byte >= 0xF0 ? 4 : ($byte >= 0xE0 ? 3 : 2);

                return $need > $i ? $i : 0;
            }
            if ($byte < 0x80) {
                return 0;
            }
        }

        return 0;
    }

    private function mended(string $bytes, int $line): string
    {
        if (mb_check_encoding($bytes, 'UTF-8')) {
            return $bytes;
        }
        foreach (self::brokenLines($bytes) as $at) {
            $this->broken[] = $line + $at;
            if (\count($this->broken) > self::MOST_BROKEN) {
                throw UnreadableTable::brokenEncoding($this->broken[0], 'UTF-8');
            }
        }
        $before = mb_substitute_character();
        mb_substitute_character(0xFFFD);
        try {
            return mb_scrub($bytes, 'UTF-8');
        } finally {
            mb_substitute_character($before);
        }
    }

    /** @return list<int> lines from 0 that hold what is no UTF-8 */
    public static function brokenLines(string $bytes): array
    {
        $broken = [];
        foreach (explode("\n", $bytes) as $i => $line) {
            if (!mb_check_encoding($line, 'UTF-8')) {
                $broken[] = $i;
            }
        }

        return $broken;
    }
}
