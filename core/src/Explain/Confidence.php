<?php

declare(strict_types=1);

namespace Dokimos\Core\Explain;

use Dokimos\Core\Task\Task;

/** How far a single answer may be leaned on, in three words. Definition: docs/methods/how-sure.md. */
enum Confidence: string
{
    case High = 'high';
    case Fair = 'fair';
    case Low = 'low';

    /** From so many points on the range of a chance is wide. */
    private const WIDE = 0.15;
    /** An interval of a number is wide from so many times that of the middle prediction on. */
    private const WIDER = 1.5;

    /**
     * @param array{chance?: ?float, number?: ?float, shares?: list<float>} $line   what was answered
     * @param bool                                                          $beyond whether the record lies beyond those seen
     */
    public static function of(Sure $sure, string $task, array $line, bool $beyond): self
    {
        if ($beyond) {
            return self::Low;
        }
        if (Task::MORE === $task) {
            return match (\count($sure->ofClasses($line['shares'] ?? []))) {
                0, 1 => self::High,
                2 => self::Fair,
                default => self::Low,
            };
        }
        if (Task::TWO === $task) {
            $told = $sure->ofChance($line['chance'] ?? 0.0);
            $width = null === $told ? 1.0 : $told['interval']->high - $told['interval']->low;

            return $width > self::WIDE ? self::Fair : self::High;
        }

        return $sure->spreadBeside($line['number'] ?? 0.0) > self::WIDER ? self::Fair : self::High;
    }
}
