<?php

declare(strict_types=1);

namespace Dokimos\Core\Format;

/** The objects of a JSON text: one a line, or a list of them, over as many lines as there may be. */
final class JsonRecords
{
    /**
     * @param iterable<string> $blocks UTF-8
     *
     * @return \Generator<int, string> the text of each object, by the line where it begins
     */
    public static function of(iterable $blocks): \Generator
    {
        $text = '';
        $line = 1;
        $isList = null;
        foreach ($blocks as $block) {
            $text .= $block;
            if (null === $isList && '' !== $begin = ltrim($text)) {
                $isList = '[' === $begin[0];
                $line += substr_count($text, "\n") - substr_count($begin, "\n");
                $text = $isList ? substr($begin, 1) : $begin;
            }
            if (true === $isList) {
                yield from self::ofList($text, $line);
            } elseif (false === $isList) {
                $end = strrpos($text, "\n");
                if (false !== $end) {
                    yield from self::ofLines(explode("\n", substr($text, 0, $end)), $line);
                    $text = substr($text, $end + 1);
                }
            }
            if (\strlen($text) > CsvReader::LONGEST_RECORD) {
                throw UnreadableTable::longRecord($line, CsvReader::LONGEST_RECORD);
            }
        }
        if (true === $isList) {
            // What is left is the end of the list, or what came of one that was cut off.
            1 === preg_match('/^\s*\]\s*$/', $text) || throw UnreadableTable::notJson($line);
        } elseif (false === $isList) {
            yield from self::ofLines([$text], $line);
        }
    }

    /**
     * @param list<string> $lines
     *
     * @return \Generator<int, string>
     */
    private static function ofLines(array $lines, int &$line): \Generator
    {
        foreach ($lines as $one) {
            if ('' !== $one = trim($one)) {
                yield $line => $one;
            }
            ++$line;
        }
    }

    /**
     * The objects that are whole; the rest stays in the text.
     *
     * @return \Generator<int, string>
     */
    private static function ofList(string &$text, int &$line): \Generator
    {
        $length = \strlen($text);
        $from = 0;
        while (true) {
            $begin = $from + strspn($text, ", \t\r\n", $from);
            if ($begin >= $length || ']' === $text[$begin]) {
                break;
            }
            if ('{' !== $text[$begin]) {
                throw UnreadableTable::notJson($line + substr_count($text, "\n", 0, $begin));
            }
            $end = self::end($text, $begin);
            if (null === $end) {
                break;
            }
            yield $line + substr_count($text, "\n", 0, $begin) => substr($text, $begin, $end - $begin);
            $from = $end;
        }
        $line += substr_count($text, "\n", 0, $from);
        $text = substr($text, $from);
    }

    /** The place after the object that begins there; null where it is not whole yet. */
    private static function end(string $text, int $at): ?int
    {
        $length = \strlen($text);
        for ($depth = 0; $at < $length; ++$at) {
            $at += strcspn($text, '{}[]"', $at);
            if ($at >= $length) {
                return null;
            }
            if ('"' === $text[$at]) {
                for (++$at; $at < $length; ++$at) {
                    $at += strcspn($text, '"\\', $at);
                    if ($at >= $length) {
                        return null;
                    }
                    if ('"' === $text[$at]) {
                        break;
                    }
                    ++$at;
                }
            } elseif ('{' === $text[$at] || '[' === $text[$at]) {
                ++$depth;
            } elseif (0 === --$depth) {
                return $at + 1;
            }
        }

        return null;
    }
}
