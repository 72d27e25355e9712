<?php

declare(strict_types=1);

namespace Dokimos\Core\Task;

/** What a model answers for rows: a number, the chance of the event, or the chances of all classes; NAN where it cannot answer. */
final readonly class Answers
{
    /**
     * @param list<float> $values row after row
     * @param int         $width  numbers of an answer: one for each class of several, else one
     */
    public function __construct(public array $values, public int $width = 1)
    {
    }

    /** @param ?list<string> $classes of what is predicted; null = a number */
    public static function widthOf(?array $classes): int
    {
        return null !== $classes && \count($classes) > 2 ? \count($classes) : 1;
    }

    /** @param list<float> $each what is said of every row alike */
    public static function same(array $each, int $rows): self
    {
        return new self(array_merge(...array_fill(0, $rows, $each)), max(1, \count($each)));
    }

    public function rows(): int
    {
        return intdiv(\count($this->values), $this->width);
    }

    public function isKnown(int $row): bool
    {
        return !is_nan($this->values[$row * $this->width]);
    }

    /** @return list<float> all numbers of a row's answer */
    public function of(int $row): array
    {
        return 1 === $this->width ? [$this->values[$row]] : \array_slice($this->values, $row * $this->width, $this->width);
    }

    /** The place of the class with the largest chance; of equal ones the first, as everywhere. */
    public function likeliest(int $row): int
    {
        $from = $row * $this->width;
        $best = 0;
        for ($k = 1; $k < $this->width; ++$k) {
            $best = $this->values[$from + $k] > $this->values[$from + $best] ? $k : $best;
        }

        return $best;
    }

    /** The number, the chance of the event, or the chance of the likeliest class. */
    public function first(int $row): float
    {
        return $this->values[$row * $this->width + $this->likeliest($row)];
    }

    /** The chance given to a class; of an event its place is 1, and that of its absence 0. */
    public function ofClass(int $row, int $class): float
    {
        return $this->width > 1 ? $this->values[$row * $this->width + $class] : (1 === $class ? $this->values[$row] : 1.0 - $this->values[$row]);
    }

    /** @param array<array-key, int> $rows */
    public function take(array $rows): self
    {
        $values = [];
        foreach ($rows as $row) {
            for ($k = 0; $k < $this->width; ++$k) {
                $values[] = $this->values[$row * $this->width + $k];
            }
        }

        return new self($values, $this->width);
    }

    /** @return list<list<float>> per class of several one list, else one list */
    public function lists(): array
    {
        if (1 === $this->width) {
            return [$this->values];
        }
        $lists = array_fill(0, $this->width, []);
        foreach ($this->values as $i => $value) {
            $lists[$i % $this->width][] = $value;
        }

        return array_values($lists);
    }
}
