<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn;

use Dokimos\Core\Random;
use Dokimos\Core\Setting;
use Dokimos\Core\Task\Task;

/**
 * Classes made to count the same while a model is fitted, and what brings its chances back to how often they occur
 * (King and Zeng 2001, section 4.1). Definition: docs/methods/imbalance.md.
 */
final readonly class Balance
{
    /** Thinned classes keep so many records for one of the rarest, */
    private const RATIO = 4.0;
    /** and all together at least so many rows. */
    private const FLOOR = 2000;

    public const AS_THEY_ARE = 'count as they are';
    public const WEIGHTED = 'weighted up';
    public const THINNED = 'frequent ones thinned out';

    /**
     * @param Task         $task    what to fit
     * @param ?list<float> $factors how much more than it occurs each class counts there; null = nothing was changed
     */
    private function __construct(public Task $task, public ?array $factors)
    {
    }

    /** @param array<string, string|float|int|bool> $settings of a learner */
    public static function isOn(array $settings): bool
    {
        return self::AS_THEY_ARE !== ($settings['balance'] ?? self::AS_THEY_ARE);
    }

    public static function setting(): Setting
    {
        return new Setting('balance', 'Rare classes', Setting::CHOICE, self::AS_THEY_ARE, 'While fitting, rare classes count as much as frequent ones, or frequent ones are thinned to four for one; then chances are brought back to how often they occur. Seldom ranks better.', choices: [self::AS_THEY_ARE, self::WEIGHTED, self::THINNED], tasks: [Task::TWO, Task::MORE]);
    }

    public static function of(Task $task, string $how): self
    {
        if (self::AS_THEY_ARE === $how || null === $task->classes) {
            return new self($task, null);
        }
        $rows = $task->usable();
        $sums = array_fill(0, \count($task->classes), 0.0);
        foreach ($rows as $row) {
            $sums[(int) $task->outcome[$row]] += $task->weights[$row] ?? 1.0;
        }
        $there = array_filter($sums);
        if (\count($there) < 2) {
            return new self($task, null);
        }
        if (self::WEIGHTED === $how) {
            $factors = array_map(static fn (float $s): float => $s > 0.0 ? array_sum($there) / (\count($there) * $s) : 1.0, $sums);
            $weights = [];
            foreach ($task->outcome as $row => $y) {
                $weights[] = ($task->weights[$row] ?? 1.0) * (is_finite($y) ? $factors[(int) $y] : 1.0);
            }

            return new self($task->on($task->rows, null, $weights), array_values($factors));
        }
        $least = min($there);
        $left = $kept = [];
        foreach ($rows as $row) {
            $left[(int) $task->outcome[$row]][] = $row;
        }
        $factors = array_fill(0, \count($sums), 1.0);
        $random = Random::stream(null, 'thinned');
        foreach ($left as $class => $own) {
            // To a few times the rarest class, and never so few rows that nothing can be divided.
            $many = min(\count($own), max(1, (int) round(self::RATIO * $least / $sums[$class] * \count($own)), (int) ceil(self::FLOOR / \count($left))));
            $factors[$class] = $many / \count($own);
            array_push($kept, ...\array_slice($random->shuffleArray($own), 0, $many));
        }
        sort($kept);

        return new self($task->on($kept), array_map(floatval(...), array_values($factors)));
    }

    /**
     * What has to be added to the log-odds of each class.
     *
     * @return list<float>
     */
    public function shifts(): array
    {
        return array_map(static fn (float $f): float => -log($f), $this->factors ?? []);
    }

    /**
     * Weights of classes as they occur.
     *
     * @param array<float> $counts as the fit counted them
     *
     * @return list<float>
     */
    public function natural(array $counts): array
    {
        return null === $this->factors ? array_values($counts) : array_map(static fn (float $c, float $f): float => $c / $f, array_values($counts), $this->factors);
    }

    /** @return list<string> a sentence where records count by a weight */
    public function notes(): array
    {
        return null === $this->factors ? [] : ['Rare classes were made to count more while fitting; chances are brought back to how often they occur, on rows that were not learned from.'];
    }
}
