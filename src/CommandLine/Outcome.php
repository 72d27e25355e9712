<?php

declare(strict_types=1);

namespace App\CommandLine;

use Dokimos\Core\Format\CellParser;
use Dokimos\Core\Learners\Learners;
use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Table;
use Dokimos\Core\Task\Task;

/** What a fit predicts: an event, one of several classes, or a number. */
final readonly class Outcome
{
    private const MOST_CLASSES = 100;

    /**
     * @param list<float>   $values
     * @param ?list<string> $classes null for a number
     */
    private function __construct(public array $values, public ?array $classes, public string $event)
    {
    }

    public static function of(Table $table, string $target, ?string $task, ?string $event, ?string $learner): self
    {
        $column = $table->column($target);
        $texts = [];
        for ($row = 0; $row < $table->rows; ++$row) {
            $texts[] = $column->text($row);
        }
        $distinct = array_values(array_unique(array_filter($texts, static fn (?string $t) => null !== $t)));
        sort($distinct, \SORT_STRING);
        $task ??= match (true) {
            null !== $event => 'event',
            null !== $learner && 1 === \count($tasks = Learners::tasks($learner)) => [
                'number' => 'number',
                'two classes' => 'event',
                'several classes' => 'classes',
            ][$tasks[0]] ?? 'event',
            $column instanceof NumberColumn && \count($distinct) > 2 => 'number',
            $column instanceof CodedColumn && \count($distinct) > 2 => 'classes',
            default => 'event',
        };
        if ('number' === $task) {
            return new self(Options::numbers($table, $target), null, '');
        }
        if ('classes' === $task) {
            if (\count($distinct) < 2 || \count($distinct) > self::MOST_CLASSES) {
                throw new \InvalidArgumentException(\sprintf(
                    '%s has %d different values; classes are 2 to %d.',
                    $target,
                    \count($distinct),
                    self::MOST_CLASSES,
                ));
            }
            $place = array_flip($distinct);

            return new self(
                array_map(static fn (?string $t): float => null === $t ? \NAN : (float) $place[$t], $texts),
                $distinct,
                2 === \count($distinct) ? $distinct[1] : '',
            );
        }
        if ('event' !== $task) {
            throw new \InvalidArgumentException('--task is event, classes or number.');
        }

        return new self(
            array_map(
                static fn (?string $t): float => null === $t ? \NAN : (null === $event ? (true === CellParser::yesNo($t) ? 1.0 : 0.0) : ($t === $event ? 1.0 : 0.0)),
                $texts,
            ),
            ['no', 'yes'],
            $event ?? 'yes',
        );
    }

    public function isEvent(): bool
    {
        return null !== $this->classes && 2 === \count($this->classes);
    }

    public function usualLearner(): string
    {
        return Learners::usual(null === $this->classes ? Task::NUMBER : ($this->isEvent() ? Task::TWO : Task::MORE));
    }
}
