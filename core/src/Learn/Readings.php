<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn;

use Dokimos\Core\Design\Coding;
use Dokimos\Core\Design\Reading;
use Dokimos\Core\Setting;
use Dokimos\Core\Table\CodedColumn;
use Dokimos\Core\Table\DateColumn;
use Dokimos\Core\Table\Kind;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Task\Task;

/** The settings by which a regression reads a table. */
final class Readings
{
    /** @return list<Setting> those a learner of straight lines adds to its own */
    public static function settings(): array
    {
        return [
            new Setting(
                'missing',
                'Missing values',
                Setting::CHOICE,
                Coding::LEAVE_OUT,
                'A row with a missing value teaches nothing and gets no answer; or the mean stands in for it, with a mark as a term of its own.',
                choices: [Coding::LEAVE_OUT, Coding::MARK],
            ),
            new Setting(
                'coding',
                'Categories',
                Setting::CHOICE,
                Reading::REFERENCE,
                'Each value against the first; a term for each, for held-back coefficients; steps from value to value in their order; '
                    .'or the outcome among records of the value.',
                choices: Reading::WAYS,
            ),
            new Setting(
                'otherwise',
                'Categories read otherwise',
                Setting::TEXT,
                '',
                'Columns with their own way, separated by commas: size: ordered, district: target mean.',
            ),
            new Setting(
                'bent',
                'Numbers that bend',
                Setting::TEXT,
                '',
                'Names separated by commas, or "all": such a number follows a smooth curve instead of a straight line.',
                choices: ['straight', 'bent'],
                kinds: [Kind::Number->value, Kind::Date->value],
            ),
            new Setting('knots', 'Knots of a curve', Setting::WHOLE, 4, 'More follow more turns.', 3, 5),
            new Setting(
                'rare',
                'Values of fewer rows than this share a term',
                Setting::WHOLE,
                0,
                '0 gives each value its own. Values never seen then count as rare ones.',
                0,
                1_000_000,
            ),
        ];
    }

    /**
     * @param array<string, string|float|int|bool> $settings
     *
     * @throws CannotFit when a way of coding is none
     */
    public static function of(array $settings): Reading
    {
        $otherwise = [];
        foreach (array_filter(
            array_map(trim(...), explode(',', (string) $settings['otherwise'])),
            static fn (string $part): bool => '' !== $part,
        ) as $part) {
            $colon = strrpos($part, ':');
            $way = false === $colon ? '' : trim(substr($part, $colon + 1));
            if (!\in_array($way, Reading::WAYS, true)) {
                throw new CannotFit(\sprintf(
                    '"%s" does not say how a column is read: write its name, a colon, and one of %s.',
                    $part,
                    implode(', ', Reading::WAYS),
                ));
            }
            $otherwise[trim(substr($part, 0, (int) $colon))] = $way;
        }

        $bent = array_values(array_filter(
            array_map(trim(...), explode(',', (string) ($settings['bent'] ?? ''))),
            static fn (string $name): bool => '' !== $name,
        ));

        return new Reading(
            Coding::MARK === $settings['missing'],
            (string) $settings['coding'],
            $otherwise,
            (int) $settings['rare'],
            ['all'] === $bent ? null : $bent,
            (int) ($settings['knots'] ?? 4),
        );
    }

    /** @throws CannotFit when a column that is to be read its own way is no category among the inputs */
    public static function demand(Reading $reading, Task $task): void
    {
        foreach ($reading->bent() as $name) {
            $column = \in_array($name, $task->inputs, true) ? $task->table->column($name) : null;
            if (!$column instanceof NumberColumn && !$column instanceof DateColumn) {
                throw new CannotFit(\sprintf('There is no number "%s" among the inputs that could bend.', $name));
            }
        }
        foreach (array_keys($reading->otherwise) as $name) {
            $name = (string) $name;
            if (!\in_array($name, $task->inputs, true) || !$task->table->column($name) instanceof CodedColumn) {
                throw new CannotFit(\sprintf(
                    'There is no category "%s" among the inputs that could be read %s.',
                    $name,
                    $reading->way($name),
                ));
            }
        }
    }
}
