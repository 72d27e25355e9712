<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Rules;

use Dokimos\Core\Learn\Tree\Part;
use Dokimos\Core\Task\Task;

/**
 * Which training rows meet a path, as a string of one byte per row, 1 or 0: paths are joined and counted by whole strings at once,
 * which is some thirty times quicker than row by row.
 */
final class Masks
{
    /** @var list<string> rows of each class */
    private array $classes = [];
    /** @var array<string, string> by part */
    private array $parts = [];

    /** @param list<int> $rows */
    public function __construct(private readonly Task $task, private readonly array $rows)
    {
        foreach (array_keys($task->classes ?? []) as $class) {
            $own = '';
            foreach ($rows as $row) {
                $own .= $class === (int) $task->outcome[$row] ? "\1" : "\0";
            }
            $this->classes[] = $own;
        }
    }

    public function all(): string
    {
        return str_repeat("\1", \count($this->rows));
    }

    /** @param array<array-key, Part> $path */
    public function met(array $path): string
    {
        $mask = $this->all();
        foreach ($path as $name => $part) {
            $key = $name.json_encode($part->toArray(), \JSON_PRESERVE_ZERO_FRACTION | \JSON_THROW_ON_ERROR);
            $mask &= $this->parts[$key] ??= $this->part((string) $name, $part);
        }

        return $mask;
    }

    private function part(string $name, Part $part): string
    {
        $met = array_fill_keys($part->met($this->task->table->column($name), $this->rows), true);
        $mask = '';
        foreach ($this->rows as $row) {
            $mask .= isset($met[$row]) ? "\1" : "\0";
        }

        return $mask;
    }

    /** @return list<float> weight of each class among the rows of a mask */
    public function counts(string $mask): array
    {
        if (null === $this->task->weights) {
            return array_map(static fn (string $class): float => (float) substr_count($class & $mask, "\1"), $this->classes);
        }
        $counts = array_fill(0, \count($this->classes), 0.0);
        foreach ($this->rows as $i => $row) {
            if ("\1" === $mask[$i]) {
                $counts[(int) $this->task->outcome[$row]] += $this->task->weights[$row];
            }
        }

        return array_values($counts);
    }

    /** The rows of the first that are not of the second. */
    public static function without(string $mask, string $other): string
    {
        return $mask & ($other ^ str_repeat("\1", \strlen($other)));
    }
}
