<?php

declare(strict_types=1);

namespace Dokimos\Core\Decide;

use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\FrameCodec;
use Dokimos\Core\Table\Kind;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Table;
use Dokimos\Core\Task\Task;

/**
 * The columns that a table of scored records has, by what is predicted: the answer (a chance, a number, or the likeliest class with its chance
 * and the chances of all), then why, and why not. Written frame by frame, so that no list of all records is ever held.
 */
final readonly class ScoredColumns
{
    public const WHY = 'because';
    public const WHY_NOT = 'not scored because';

    /**
     * @param array<string, array{Kind, list<string>}> $columns kind and levels by name, in the order of the table
     * @param list<string>                             $classes of several; [] = an event or a number
     */
    private function __construct(public array $columns, public string $target, public string $task, public array $classes)
    {
    }

    /** @param list<string> $classes of several; [] = an event or a number */
    public static function of(string $target, string $task, array $classes): self
    {
        $answer = match ($task) {
            Task::TWO => [$target.' chance' => [Kind::Number, []]],
            Task::MORE => [$target.' predicted' => [Kind::Category, $classes], $target.' chance' => [Kind::Number, []]],
            default => [$target.' predicted' => [Kind::Number, []]],
        };
        foreach (Task::MORE === $task ? $classes : [] as $class) {
            $answer[$target.' chance of '.$class] = [Kind::Number, []];
        }

        return new self($answer + [self::WHY => [Kind::Text, []], self::WHY_NOT => [Kind::Text, []]], $target, $task, $classes);
    }

    /** The place of the number that records are ordered by: a chance, or the number predicted. */
    public function ordering(): int
    {
        return Task::MORE === $this->task ? 1 : 0;
    }

    /**
     * One frame of each column.
     *
     * @param list<array{chance: ?float, number?: ?float, class?: ?string, shares?: list<float>, why: ?string, reasons: string}> $lines as ScoringModel::score() gives them, at most FrameCodec::ROWS
     *
     * @return list<string>
     */
    public function frames(array $lines): array
    {
        $chances = array_map(static fn (array $l): float => $l['chance'] ?? \NAN, $lines);
        if (Task::MORE === $this->task) {
            $place = array_flip($this->classes);
            $frames = [FrameCodec::packWhole(array_map(static fn (array $l): int => isset($l['class']) ? $place[$l['class']] : \PHP_INT_MIN, $lines)), FrameCodec::packNumbers($chances)];
            foreach (array_keys($this->classes) as $k) {
                $frames[] = FrameCodec::packNumbers(array_map(static fn (array $l): float => $l['shares'][$k] ?? \NAN, $lines));
            }
        } else {
            $frames = [FrameCodec::packNumbers(Task::TWO === $this->task ? $chances : array_map(static fn (array $l): float => $l['number'] ?? \NAN, $lines))];
        }
        $frames[] = FrameCodec::packTexts(array_map(static fn (array $l): ?string => null === $l['why'] ? $l['reasons'] : null, $lines));
        $frames[] = FrameCodec::packTexts(array_map(static fn (array $l): ?string => $l['why'], $lines));

        return $frames;
    }

    /**
     * The same read back.
     *
     * @param Table $rows of these columns
     *
     * @return list<array{chance: ?float, number?: ?float, class?: ?string, shares?: list<float>, why: ?string, reasons: string}>
     */
    public function lines(Table $rows): array
    {
        $columns = array_values($rows->columns());
        $numbers = array_map(static fn ($c): array => $c instanceof NumberColumn ? $c->values : [], $columns);
        $last = \count($columns) - 1;
        $lines = [];
        for ($row = 0; $row < $rows->rows; ++$row) {
            $value = static fn (int $at): ?float => is_nan($numbers[$at][$row]) ? null : $numbers[$at][$row];
            $line = match ($this->task) {
                Task::TWO => ['chance' => $value(0)],
                Task::MORE => ['chance' => $value(1), 'class' => $columns[0] instanceof CodedColumn ? $columns[0]->text($row) : null, 'shares' => null === $value(1) ? [] : array_map(static fn (int $k): float => $numbers[2 + $k][$row], array_keys($this->classes))],
                default => ['chance' => null, 'number' => $value(0)],
            };
            $lines[] = $line + ['why' => $columns[$last]->text($row), 'reasons' => $columns[$last - 1]->text($row) ?? ''];
        }

        return $lines;
    }
}
