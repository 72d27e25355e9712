<?php

declare(strict_types=1);

namespace App\Judgment;

use App\Trial\Trial;
use Dokimos\Core\Learners\Learners;
use Dokimos\Core\Task\Task;

/** What trials side by side were set to. */
final readonly class SettingBesideView
{
    /** @param list<?string> $values per trial; null where it has no such setting */
    public function __construct(public string $name, public array $values, public bool $same)
    {
    }

    /**
     * @param list<Trial> $trials
     *
     * @return list<self>
     */
    public static function all(array $trials): array
    {
        $lines = [];
        foreach ($trials as $k => $trial) {
            $line = $trial->line();
            $choice = $trial->choice();
            $own = [
                'Columns' => (string) $line->columns,
                'Column choice' => null === $choice ? 'all' : ($choice->without ? 'all but ' : 'only ').implode(', ', $choice->names),
                'To read' => '' === $line->size ? null : $line->size,
                'Preparation' => $trial->variant()?->letter(),
                'Chances' => Task::NUMBER === $line->task ? null : $trial->calibration(),
                'Learns from' => null === $trial->part() ? 'all rows' : number_format($trial->part()).' rows',
            ];
            foreach ($trial->isBlend() ? [] : Learners::about($trial->learner())->settings as $setting) {
                if ([] === $setting->tasks || \in_array($line->task, $setting->tasks, true)) {
                    $own[$setting->label] = self::told($trial->settings()[$setting->name] ?? $setting->default);
                }
            }
            foreach ($own as $name => $value) {
                $lines[$name] ??= array_fill(0, \count($trials), null);
                $lines[$name][$k] = $value;
            }
        }

        return array_map(
            static fn (string $name, array $values): self => new self(
                $name,
                array_values($values),
                1 === \count(array_unique($values, \SORT_REGULAR)),
            ),
            array_keys($lines),
            array_values($lines),
        );
    }

    private static function told(mixed $value): string
    {
        return match (true) {
            \is_bool($value) => $value ? 'yes' : 'no',
            null === $value, '' === $value => 'by itself',
            \is_array($value) => implode(', ', array_map(static fn (mixed $v): string => \is_scalar($v) ? (string) $v : '', $value)),
            default => \is_scalar($value) ? (string) $value : '',
        };
    }
}
