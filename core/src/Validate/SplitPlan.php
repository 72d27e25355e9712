<?php

declare(strict_types=1);

namespace Dokimos\Core\Validate;

use Dokimos\Core\Random;
use Dokimos\Core\Task\Apart;
use Random\Randomizer;

/**
 * How rows are divided: some are sealed for the final examination, the rest validate in turns. By chance, stratified by the outcome; by
 * group, so that records of one key never stand on both sides; by time, so that the past is judged by what came after; or by a column
 * that says it. Drawn from a seed by row number, before any step, so that every variant sees the same division.
 */
final readonly class SplitPlan
{
    /** From so many rows on, one validation part judges as well as folds and costs a tenth. */
    public const ONE_PART_FROM = 50000;

    public const CHANCE = 'chance';
    public const GROUP = 'group';
    public const TIME = 'time';
    public const MARKER = 'marker';
    /** Up to so many different outcomes each is a stratum; more are cut into tenths. */
    private const STRATA = 20;

    /**
     * @param string  $way         one of the constants
     * @param ?string $column      that groups, dates or marks the rows
     * @param ?string $validation  of a marker: its value on rows that validate
     * @param ?string $sealedValue of a marker: its value on sealed rows
     *
     * @throws \InvalidArgumentException Between 0 and 50% of the rows can be sealed. There can be 1 to 20 folds, repeated 1 to …
     */
    public function __construct(
        public float $sealedShare = 0.2,
        public int $folds = 5,
        public int $repeats = 2,
        public int $seed = 2026,
        public string $way = self::CHANCE,
        public ?string $column = null,
        public ?string $validation = null,
        public ?string $sealedValue = null,
    ) {
        if ($sealedShare < 0.0 || $sealedShare > 0.5) {
            throw new \InvalidArgumentException('Between 0 and 50% of the rows can be sealed.');
        }
        if ($folds < 1 || $folds > 20 || $repeats < 1 || $repeats > 20) {
            throw new \InvalidArgumentException('There can be 1 to 20 folds, repeated 1 to 20 times.');
        }
        if (!\in_array($way, [self::CHANCE, self::GROUP, self::TIME, self::MARKER], true)) {
            throw new \InvalidArgumentException('Rows are divided by chance, by group, by time or by a marker.');
        }
        if ((self::CHANCE === $way) !== (null === $column)) {
            throw new \InvalidArgumentException('Rows are divided by chance without a column, or by a group, a time or a marker with one.');
        }
        if (\in_array($way, [self::TIME, self::MARKER], true) && 1 !== $repeats) {
            throw new \InvalidArgumentException('What a date or a marker divides is the same each time: it cannot be repeated.');
        }
        if (self::MARKER === $way && (1 !== $folds || null === $validation || '' === $validation)) {
            throw new \InvalidArgumentException('A marker names one validation part: say which of its values validates.');
        }
    }

    public static function standard(int $rows, int $seed = 2026): self
    {
        return $rows < self::ONE_PART_FROM ? new self(0.2, 5, 2, $seed) : new self(0.2, 1, 1, $seed);
    }

    /** How many fits a trial takes for its validation figures. */
    public function fits(): int
    {
        return $this->folds * $this->repeats;
    }

    /**
     * @param list<float>                  $outcome NAN = unknown; such rows are in no part
     * @param ?list<int|float|string|null> $labels  the value of the column per row; null = missing
     *
     * @return list<int> the sealed rows, ascending
     */
    public function sealed(array $outcome, ?array $labels = null): array
    {
        $known = array_keys(array_filter($outcome, static fn (float $y) => !is_nan($y)));
        $random = self::random($this->seed, 'sealed');
        $sealed = [];
        if (self::MARKER === $this->way) {
            $sealed = null === $this->sealedValue ? [] : array_values(array_filter(
                $known,
                fn (int $row): bool => (string) ($labels[$row] ?? '') === $this->sealedValue,
            ));
        } elseif (self::TIME === $this->way) {
            // The latest: the final examination is the nearest to what comes.
            $blocks = self::inTime($known, $labels ?? []);
            $wanted = $this->sealedShare * array_sum(array_map(\count(...), $blocks));
            while ([] !== $blocks && \count($sealed) + 0.5 * \count($blocks[\count($blocks) - 1]) < $wanted) {
                array_push($sealed, ...array_pop($blocks));
            }
        } elseif (self::GROUP === $this->way) {
            $wanted = $this->sealedShare * \count($known);
            foreach ($random->shuffleArray(self::groups($known, $labels ?? [])) as $rows) {
                if (\count($sealed) + 0.5 * \count($rows) < $wanted) {
                    array_push($sealed, ...$rows);
                }
            }
        } else {
            foreach (self::strata($outcome, $known) as $rows) {
                $shuffled = $random->shuffleArray($rows);
                array_push($sealed, ...\array_slice($shuffled, 0, (int) round($this->sealedShare * \count($rows))));
            }
        }
        sort($sealed);

        return $sealed;
    }

    /**
     * How a learner keeps rows back from itself under this plan.
     *
     * @param ?list<int|float|string|null> $labels
     */
    public function apart(?array $labels): ?Apart
    {
        return null !== $labels && \in_array(
            $this->way,
            [self::GROUP, self::TIME],
            true,
        ) ? new Apart(self::TIME === $this->way, $labels) : null;
    }

    /**
     * The parts of one repeat; with a single fold, one part of a quarter of the rows validates.
     *
     * @param list<float>                  $outcome
     * @param list<int>                    $rows    the rows that are not sealed
     * @param ?list<int|float|string|null> $labels
     *
     * @return list<list<int>> validation rows of each fold, ascending
     */
    public function parts(array $outcome, array $rows, int $repeat, ?array $labels = null): array
    {
        $rows = array_values(array_filter($rows, static fn (int $row) => !is_nan($outcome[$row])));
        $random = self::random($this->seed, 'repeat '.$repeat);
        $parts = match ($this->way) {
            self::MARKER => [array_values(array_filter(
                $rows,
                fn (int $row): bool => (string) ($labels[$row] ?? '') === $this->validation,
            ))],
            self::TIME => self::later(self::inTime($rows, $labels ?? []), $this->folds),
            self::GROUP => self::together($random->shuffleArray(self::groups($rows, $labels ?? [])), $this->folds),
            default => self::stratified(self::strata($outcome, $rows), $this->folds, $random),
        };
        foreach ($parts as &$part) {
            sort($part);
        }

        return array_values($parts);
    }

    /**
     * The rows that may teach what is judged on a part: all others, or all that came before.
     *
     * @param list<float>                  $outcome
     * @param list<int>                    $rows       the rows that are not sealed
     * @param list<int>                    $validation
     * @param ?list<int|float|string|null> $labels
     *
     * @return list<int>
     */
    public function training(array $outcome, array $rows, array $validation, ?array $labels = null): array
    {
        $held = array_fill_keys($validation, true);
        $others = array_values(array_filter($rows, static fn (int $row): bool => !isset($held[$row]) && !is_nan($outcome[$row])));
        if (self::TIME !== $this->way || [] === $validation) {
            return $others;
        }
        $first = min(array_map(static fn (int $row): float => (float) ($labels[$row] ?? \INF), $validation));

        return array_values(array_filter(
            $others,
            static fn (int $row): bool => null === ($labels[$row] ?? null) || $labels[$row] < $first,
        ));
    }

    /**
     * @param list<list<int>> $strata
     *
     * @return list<list<int>>
     */
    private static function stratified(array $strata, int $folds, Randomizer $random): array
    {
        $parts = array_fill(0, $folds, []);
        foreach ($strata as $stratum) {
            $shuffled = $random->shuffleArray($stratum);
            if (1 === $folds) {
                array_push($parts[0], ...\array_slice($shuffled, 0, (int) round(0.25 * \count($stratum))));
                continue;
            }
            // Start at another fold in each stratum, so that the remainders do not all fall to the first.
            $start = $random->getInt(0, $folds - 1);
            foreach ($shuffled as $i => $row) {
                $parts[($start + $i) % $folds][] = $row;
            }
        }

        return array_values($parts);
    }

    /**
     * Whole groups, each to the part with the fewest rows.
     *
     * @param array<list<int>> $groups
     *
     * @return list<list<int>>
     */
    private static function together(array $groups, int $folds): array
    {
        $parts = array_fill(0, max(2, $folds), []);
        $wanted = 0.25 * array_sum(array_map(\count(...), $groups));
        foreach ($groups as $rows) {
            if (1 === $folds) {
                $to = \count($parts[0]) + 0.5 * \count($rows) < $wanted ? 0 : 1;
            } else {
                $sizes = array_map(\count(...), $parts);
                $to = (int) array_search(min($sizes), $sizes, true);
            }
            array_push($parts[$to], ...$rows);
        }

        return \array_slice($parts, 0, $folds);
    }

    /**
     * As many stretches of time as folds after a first one that only teaches; with a single fold the last quarter.
     *
     * @param list<list<int>> $blocks rows of the same moment, from the earliest on
     *
     * @return list<list<int>>
     */
    private static function later(array $blocks, int $folds): array
    {
        $all = array_sum(array_map(\count(...), $blocks));
        $stretches = 1 === $folds ? 4 : $folds + 1;
        $parts = array_fill(0, $folds, []);
        $before = 0;
        foreach ($blocks as $rows) {
            // The stretch that the middle of the block falls into; the first ones teach.
            $at = (int) min($stretches - 1, floor(($before + 0.5 * \count($rows)) / max(1, $all) * $stretches)) - ($stretches - $folds);
            $before += \count($rows);
            if ($at >= 0) {
                array_push($parts[$at], ...$rows);
            }
        }

        return array_values($parts);
    }

    /**
     * @param list<int>                   $rows
     * @param list<int|float|string|null> $labels
     *
     * @return list<list<int>> rows with the same label; one without a label stands alone
     */
    private static function groups(array $rows, array $labels): array
    {
        $groups = [];
        foreach ($rows as $row) {
            $groups[null === ($labels[$row] ?? null) ? 'row '.$row : 'of '.$labels[$row]][] = $row;
        }

        return array_values($groups);
    }

    /**
     * @param list<int>                   $rows
     * @param list<int|float|string|null> $labels
     *
     * @return list<list<int>> rows of the same moment, from the earliest on; those without one are left out
     */
    private static function inTime(array $rows, array $labels): array
    {
        $moments = [];
        foreach ($rows as $row) {
            if (null !== ($labels[$row] ?? null)) {
                $moments[(string) $labels[$row]][] = $row;
            }
        }
        uksort($moments, static fn (int|string $a, int|string $b) => (float) $a <=> (float) $b);

        return array_values($moments);
    }

    /**
     * Rows of the same outcome, the largest first; of a number those of the same tenth.
     *
     * @param list<float> $outcome
     * @param list<int>   $rows
     *
     * @return list<list<int>>
     */
    private static function strata(array $outcome, array $rows): array
    {
        $strata = [];
        foreach ($rows as $row) {
            if (!is_nan($outcome[$row])) {
                $strata[(string) $outcome[$row]][] = $row;
            }
        }
        uksort($strata, static fn (int|string $a, int|string $b) => (float) $b <=> (float) $a);
        if (\count($strata) <= self::STRATA) {
            return array_values($strata);
        }
        $ordered = array_merge(...array_values($strata));

        return array_chunk($ordered, max(1, (int) ceil(\count($ordered) / 10)));
    }

    public static function random(int $seed, string $purpose): Randomizer
    {
        return Random::stream($seed, $purpose);
    }

    /** @return array{sealedShare: float, folds: int, repeats: int, seed: int, way?: string, column?: ?string, validation?: ?string, sealedValue?: ?string} */
    public function toArray(): array
    {
        return [
            'sealedShare' => $this->sealedShare,
            'folds' => $this->folds,
            'repeats' => $this->repeats,
            'seed' => $this->seed,
        ] + (self::CHANCE === $this->way ? [] : ['way' => $this->way, 'column' => $this->column, 'validation' => $this->validation, 'sealedValue' => $this->sealedValue]);
    }

    /** @param array{sealedShare: float, folds: int, repeats: int, seed: int, way?: string, column?: ?string, validation?: ?string, sealedValue?: ?string} $data */
    public static function fromArray(array $data): self
    {
        return new self(
            (float) $data['sealedShare'],
            (int) $data['folds'],
            (int) $data['repeats'],
            (int) $data['seed'],
            $data['way'] ?? self::CHANCE,
            $data['column'] ?? null,
            $data['validation'] ?? null,
            $data['sealedValue'] ?? null,
        );
    }
}
