<?php

declare(strict_types=1);

namespace Dokimos\Core\Format;

use Dokimos\Core\Profile\DistinctTexts;
use Dokimos\Core\Profile\ValueCounts;
use Dokimos\Core\Table\DateColumn;
use Dokimos\Core\Table\FrameCodec;
use Dokimos\Core\Table\Kind;

/**
 * Turns the cells of one column, as they pass by, into stored frames, a kind and a profile.
 *
 * Without an explicit kind it believes in "number" (then "date") for as long as every cell agrees. When a later cell breaks a belief
 * that earlier frames were written with, the column asks for another pass: see outdated().
 */
final class ColumnEncoder
{
    /** Above so many different values a column is no longer written as codes. */
    private const MOST_LEVELS = 20000;
    private const MISFITS_KEPT = 10000;

    private readonly CellBlock $block;
    /** @var array<array-key, float> what cells of earlier frames meant, so that each is parsed once; NAN = missing */
    private array $parsedNumbers = [];
    /** @var array<array-key, int> the same for dates, in seconds */
    private array $parsedDates = [];
    private ?Kind $belief;
    private bool $writtenAsBelief = false;
    private bool $outdated = false;
    private ValueCounts $numbers;
    /** @var array<array-key, int> level => code */
    private array $levels = [];
    /** @var array<array-key, int> level => count */
    private array $counts = [];
    private bool $asText = false;
    private readonly DistinctTexts $different;
    private int $rows = 0;
    private int $missing = 0;
    private int $longest = 0;
    private int $letters = 0;
    private bool $spaces = false;
    private bool $yesNo = true;
    /** @var array<int, int> length in letters => count */
    private array $lengths = [];
    /** @var list<array{int, string}> */
    private array $misfits = [];
    private int $misfitCount = 0;
    /** @var array{string, string, string}|false|null a date that could be read in two ways, how it was read and how it could be; false once a date has told the order */
    private array|false|null $unsure = null;
    /** @var array<string, int> cells by what was written around the number: a currency, or a percent sign */
    private array $marks = [];
    /** @var array<array-key, string> */
    private array $markOf = [];

    /** @param bool $levelsOnly believe neither in numbers nor in dates: one of them has been refuted before */
    public function __construct(private readonly CellParser $parser, private readonly ?Kind $wanted = null, bool $levelsOnly = false)
    {
        $this->belief = $levelsOnly ? null : $wanted ?? Kind::Number;
        $this->block = new CellBlock();
        $this->numbers = new ValueCounts();
        $this->different = new DistinctTexts();
        $this->asText = Kind::Text === $wanted || Kind::Identifier === $wanted;
    }

    /** Whether frames already handed out were written under a belief that broke: read the column once more with kind(). */
    public function outdated(): bool
    {
        return $this->outdated;
    }

    /** @param list<string> $cells of the next rows; they come out with frame() */
    public function take(array $cells): void
    {
        $this->block->take($cells);
    }

    /** The cells taken since the last frame, at most 4,096, as stored bytes. */
    public function frame(): string
    {
        $this->rows += $this->block->count();
        $frame = $this->encode();
        $this->block->clear();

        return $frame;
    }

    private function encode(): string
    {
        $distinct = $this->block->distinct();
        if (Kind::Number === $this->belief) {
            $few = $this->block->repeats() || 2 * \count($distinct) < $this->block->count();
            $frame = $few && $this->numbers->isCounting() ? $this->addRepeatedNumbers($distinct) : $this->addNumbers();
            if (null !== $frame) {
                $this->writtenAsBelief = true;

                return $frame;
            }
            // Numbers have been seen and now something else: not dates throughout.
            $this->belief = [] === $this->numbers->sorted()[0] ? Kind::Date : null;
            $this->outdated = $this->writtenAsBelief;
            $this->numbers = new ValueCounts();
        }
        if (Kind::Date === $this->belief) {
            $frame = $this->addDates($distinct);
            if (null !== $frame) {
                $this->writtenAsBelief = true;

                return $frame;
            }
            $this->outdated = $this->outdated || $this->writtenAsBelief;
            $this->belief = null;
            $this->numbers = new ValueCounts();
            $this->missing = 0;
        }

        return $this->addLevels($distinct);
    }

    /** @param array<array-key, int> $distinct */
    private function addRepeatedNumbers(array $distinct): ?string
    {
        $parser = $this->parser;
        $parsed = &$this->parsedNumbers;
        if (\count($parsed) > self::MOST_LEVELS) {
            $parsed = $this->markOf = [];
        }
        $map = $pairs = [];
        foreach ($distinct as $cell => $count) {
            if (!isset($parsed[$cell])) {
                $text = (string) $cell;
                $value = $parser->isMissing($text) ? \NAN : $parser->number($text);
                if (null === $value) {
                    if (Kind::Number !== $this->wanted) {
                        return null;
                    }
                    $value = \NAN;
                }
                $parsed[$cell] = $value;
                if (!is_numeric($text) && '' !== $mark = $parser->mark($text) ?? '') {
                    $this->markOf[$cell] = $mark;
                }
            }
            if (isset($this->markOf[$cell])) {
                $this->marks[$this->markOf[$cell]] = ($this->marks[$this->markOf[$cell]] ?? 0) + $count;
            }
            $map[$cell] = $parsed[$cell];
            $pairs[] = [$parsed[$cell], $count];
        }
        if (Kind::Number === $this->wanted) {
            foreach ($this->block->cells() as $i => $cell) {
                if (is_nan($map[$cell]) && !$parser->isMissing($cell)) {
                    $this->misfit($i, $cell);
                }
            }
        }
        $this->numbers->addCounted($pairs);

        return FrameCodec::packMappedNumbers($this->block->join(...), $map);
    }

    private function addNumbers(): ?string
    {
        $parser = $this->parser;
        $values = [];
        foreach ($this->block->cells() as $i => $cell) {
            $value = $parser->number($cell);
            if (null === $value) {
                if (!$parser->isMissing($cell)) {
                    if (Kind::Number !== $this->wanted) {
                        return null;
                    }
                    $this->misfit($i, $cell);
                }
                $value = \NAN;
            } elseif (!is_numeric($cell) && '' !== $mark = $parser->mark($cell) ?? '') {
                $this->marks[$mark] = ($this->marks[$mark] ?? 0) + 1;
            }
            $values[] = $value;
        }
        $this->numbers->add($values);

        return FrameCodec::packNumbers($values);
    }

    /** @param array<array-key, int> $distinct */
    private function addDates(array $distinct): ?string
    {
        $parsed = &$this->parsedDates;
        if (\count($parsed) > self::MOST_LEVELS) {
            $parsed = $this->markOf = [];
        }
        $map = $pairs = [];
        foreach ($distinct as $cell => $count) {
            if (!isset($parsed[$cell])) {
                $text = (string) $cell;
                $seconds = $this->parser->isMissing($text) ? DateColumn::MISSING : $this->parser->date($text);
                if (null === $seconds) {
                    if (Kind::Date !== $this->wanted) {
                        return null;
                    }
                    $seconds = DateColumn::MISSING;
                }
                $parsed[$cell] = $seconds;
                if (DateColumn::MISSING !== $seconds && false !== $this->unsure) {
                    $other = $this->parser->otherWayRound($text);
                    $sure = null === $other && 1 === preg_match('#^\s*(\d{1,2})([./-])(?!\1\2)\d{1,2}\2#', $text);
                    $this->unsure = $sure ? false : $this->unsure ?? (null === $other ? null : [$text, DateColumn::write($seconds), DateColumn::write($other)]);
                }
            }
            $map[$cell] = $parsed[$cell];
            $pairs[] = [DateColumn::MISSING === $parsed[$cell] ? \NAN : (float) $parsed[$cell], $count];
        }
        if (Kind::Date === $this->wanted) {
            foreach ($this->block->cells() as $i => $cell) {
                if (DateColumn::MISSING === $map[$cell] && !$this->parser->isMissing($cell)) {
                    $this->misfit($i, $cell);
                }
            }
        }
        $this->numbers->addCounted($pairs);

        return FrameCodec::packMapped($this->block->join(...), $map);
    }

    /** @param array<array-key, int> $distinct */
    private function addLevels(array $distinct): string
    {
        // Hot for columns whose cells hardly repeat: what can be asked of all cells at once is, the rest is kept in local variables.
        $parser = $this->parser;
        $asText = $this->asText;
        $counts = &$this->counts;
        $lengths = &$this->lengths;
        $levels = &$this->levels;
        $codes = $foreign = $texts = [];
        $missing = 0;
        $letters = 0;
        $all = implode('', array_keys($distinct));
        $bytesAreLetters = mb_check_encoding($all, 'ASCII');
        $this->spaces = $this->spaces || str_contains($all, ' ');
        $yesNo = $this->yesNo;
        $strict = Kind::YesNo === $this->wanted;
        $listed = \count($counts);
        foreach ($distinct as $cell => $count) {
            $cell = (string) $cell;
            if ($parser->isMissing($cell)) {
                $missing += $count;
                $codes[$cell] = \PHP_INT_MIN;
                continue;
            }
            if ($strict && null === CellParser::yesNo($cell)) {
                $missing += $count;
                $codes[$cell] = \PHP_INT_MIN;
                $foreign[$cell] = true;
                continue;
            }
            $length = $bytesAreLetters ? \strlen($cell) : mb_strlen($cell);
            $letters += $length * $count;
            $lengths[$length] = ($lengths[$length] ?? 0) + $count;
            if ($yesNo) {
                $yesNo = null !== CellParser::yesNo($cell);
            }
            if (!$asText) {
                $codes[$cell] = $levels[$cell] ??= \count($levels);
                $counts[$cell] = ($counts[$cell] ?? 0) + $count;
                continue;
            }
            $texts[] = $cell;
            if ($listed < self::MOST_LEVELS) {
                $counts[$cell] = ($counts[$cell] ?? 0) + $count;
            } elseif (isset($counts[$cell])) {
                $counts[$cell] += $count;
            }
        }
        if ([] !== $foreign) {
            foreach ($this->block->cells() as $i => $cell) {
                if (isset($foreign[$cell])) {
                    $this->misfit($i, $cell);
                }
            }
        }
        $this->yesNo = $yesNo;
        $this->missing += $missing;
        $this->letters += $letters;
        $this->longest = [] === $lengths ? 0 : max(array_keys($lengths));
        if ($asText) {
            $this->different->add($texts);
            $cells = $this->block->cells();
            if (0 === $missing) {
                return FrameCodec::packTexts($cells);
            }
            $texts = [];
            foreach ($cells as $cell) {
                $texts[] = $parser->isMissing($cell) ? null : $cell;
            }

            return FrameCodec::packTexts($texts);
        }
        if (\count($this->levels) > self::MOST_LEVELS && !$this->wantsCodes()) {
            $this->asText = true;
            $this->different->add(array_map(strval(...), array_keys($this->levels)));
        }

        return FrameCodec::packMapped($this->block->join(...), $codes);
    }

    private function wantsCodes(): bool
    {
        return null !== $this->wanted && $this->wanted->isCoded();
    }

    private function misfit(int $i, string $cell): void
    {
        ++$this->misfitCount;
        if (\count($this->misfits) < self::MISFITS_KEPT) {
            $this->misfits[] = [$this->rows - $this->block->count() + $i, $cell];
        }
    }

    /** The encoder for the pass that outdated() asks for. */
    public function again(): self
    {
        return Kind::Date === $this->belief ? new self($this->parser, Kind::Date) : new self($this->parser, null, true);
    }

    public function kind(): Kind
    {
        if (null !== $this->wanted) {
            return $this->wanted;
        }
        if (null !== $this->belief) {
            return $this->belief;
        }

        return KindGuess::ofTexts($this->rows - $this->missing, $this->asText ? $this->different->count() : \count($this->levels), $this->yesNo, $this->spaces, $this->longest, $this->letters, array_map(strval(...), \array_slice(array_keys($this->levels), 0, KindGuess::LOOKED_AT)));
    }

    public function finish(): EncodedColumn
    {
        $kind = $this->kind();
        if (Kind::Number === $kind || Kind::Date === $kind) {
            $profile = ColumnProfile::ofNumbers($kind, $this->numbers, $this->rows);
            if (Kind::Number === $kind && [] !== $this->marks) {
                $profile['marks'] = $this->marks + ['' => max(0, $this->rows - $this->numbers->missing - array_sum($this->marks))];
            }
            if (Kind::Date === $kind) {
                $profile += \is_array($this->unsure) ? ['unsure' => $this->unsure] : [];
            }

            return new EncodedColumn($kind, [], $profile, $this->misfits, $this->misfitCount);
        }
        $distinct = $this->asText ? $this->different->count() : \count($this->counts);
        $profile = ColumnProfile::ofLevels($kind, $this->counts, $this->missing, $this->rows, $distinct, $this->lengths);

        return new EncodedColumn($kind, array_map(strval(...), array_keys($this->levels)), $profile, $this->misfits, $this->misfitCount);
    }
}
