<?php

declare(strict_types=1);

namespace Dokimos\Core\Figure;

use Dokimos\Core\Measure\BinaryScores;
use Dokimos\Core\Measure\Bootstrap;
use Dokimos\Core\Measure\DeLong;
use Dokimos\Core\Measure\Interval;
use Dokimos\Core\Task\Answers;

/** Rows with their outcome and an answer each, and what several figures of them share, computed once. */
final class Sample
{
    private ?BinaryScores $scores = null;
    /** @var ?array{averagePrecision: Interval, ks: Interval} */
    private ?array $drawn = null;
    /** @var ?array{balancedAccuracy: Interval, kappa: Interval} */
    private ?array $agreement = null;
    /** @var ?list<?DeLong> */
    private ?array $areas = null;
    private ?bool $counts = null;

    /**
     * @param non-empty-list<float> $outcome
     * @param Answers               $answers of the same rows, none of them NAN
     * @param ?list<float>          $weights how much each row counts, in the figures that go by weights
     */
    public function __construct(public readonly array $outcome, public readonly Answers $answers, public readonly ?array $weights = null)
    {
    }

    /**
     * The rows that have an answer.
     *
     * @param list<float>  $outcome
     * @param ?list<float> $weights
     * @param bool         $counting only those of a weight above 0
     *
     * @return ?self null when there is none
     */
    public static function known(array $outcome, Answers $answers, ?array $weights, bool $counting): ?self
    {
        $known = $values = $counts = [];
        $width = $answers->width;
        foreach ($outcome as $i => $y) {
            if (is_nan($answers->values[$i * $width]) || ($counting && null !== $weights && $weights[$i] <= 0.0)) {
                continue;
            }
            $known[] = $y;
            if (1 === $width) {
                $values[] = $answers->values[$i];
            } else {
                array_push($values, ...\array_slice($answers->values, $i * $width, $width));
            }
            $counts[] = $weights[$i] ?? 1.0;
        }

        return [] === $known ? null : new self($known, new Answers($values, $width), null === $weights ? null : $counts);
    }

    public function rows(): int
    {
        return \count($this->outcome);
    }

    /** Whole numbers are counts of records, and their intervals are those of so many records. */
    public function counts(): bool
    {
        return $this->counts ??= null !== $this->weights && [] === array_filter($this->weights, static fn (float $w): bool => floor($w) !== $w);
    }

    /** Of an event; every record counts once. */
    public function scores(): BinaryScores
    {
        return $this->scores ??= new BinaryScores($this->outcome, $this->answers->values);
    }

    /** @return array{averagePrecision: Interval, ks: Interval} 95 % intervals by the bootstrap */
    public function drawn(): array
    {
        return $this->drawn ??= $this->scores()->drawnAgain();
    }

    /**
     * @return list<list<int>> of several classes: rows by what came, columns by what was said
     */
    public function confusion(): array
    {
        $width = $this->answers->width;
        $counts = array_fill(0, $width * $width, 0);
        foreach ($this->outcome as $row => $class) {
            ++$counts[(int) $class * $width + $this->answers->likeliest($row)];
        }

        return array_chunk(array_values($counts), max(1, $width));
    }

    /** @return array{balancedAccuracy: Interval, kappa: Interval} 95 % intervals by the bootstrap */
    public function agreement(): array
    {
        return $this->agreement ??= Bootstrap::confusion($this->confusion());
    }

    /** @return list<?DeLong> of each class against all others; null where it does not occur, or nothing else does */
    public function areas(): array
    {
        if (null === $this->areas) {
            $this->areas = [];
            foreach ($this->answers->lists() as $class => $chances) {
                $event = array_map(static fn (float $y): float => (int) $y === $class ? 1.0 : 0.0, $this->outcome);
                $support = (int) array_sum($event);
                $this->areas[] = 0 === $support || $support === $this->rows() ? null : DeLong::of($event, $chances);
            }
        }

        return $this->areas;
    }

    /** @param bool $weighted whether the mean, or the share of each class, goes by weights */
    public function mean(bool $weighted = true): float
    {
        return null === $this->weights || !$weighted ? array_sum($this->outcome) / $this->rows() : (float) Interval::mean($this->outcome, $this->weights)->value;
    }

    /** The same rows answered with the mean of their outcomes: a little better than any mean learned elsewhere could be. */
    public function doingNothing(bool $weighted = true): self
    {
        return new self($this->outcome, new Answers(array_fill(0, $this->rows(), $this->mean($weighted))), $weighted ? $this->weights : null);
    }
}
