<?php

declare(strict_types=1);

namespace Dokimos\Core\Validate;

use Random\Engine\Xoshiro256StarStar;
use Random\Randomizer;

/**
 * How rows are divided: sealed rows for the final examination, the rest into folds. Stratified by the event, so that each part has
 * the same share of it. The same seed gives the same rows.
 */
final readonly class SplitPlan
{
    /** From so many rows on, one validation part judges as well as folds and costs a tenth. */
    public const ONE_PART_FROM = 50000;

    public function __construct(public float $sealedShare = 0.2, public int $folds = 5, public int $repeats = 2, public int $seed = 2026)
    {
        if ($sealedShare < 0.0 || $sealedShare > 0.5) {
            throw new \InvalidArgumentException('Between 0 and 50 % of the rows can be sealed.');
        }
        if ($folds < 1 || $folds > 20 || $repeats < 1 || $repeats > 20) {
            throw new \InvalidArgumentException('There can be 1 to 20 folds, repeated 1 to 20 times.');
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
     * @param list<float> $event NAN = unknown; such rows are in no part
     *
     * @return list<int> the sealed rows, ascending
     */
    public function sealed(array $event): array
    {
        $random = self::random($this->seed, 'sealed');
        $sealed = [];
        foreach (self::strata($event, null) as $rows) {
            $shuffled = $random->shuffleArray($rows);
            array_push($sealed, ...\array_slice($shuffled, 0, (int) round($this->sealedShare * \count($rows))));
        }
        sort($sealed);

        return $sealed;
    }

    /**
     * The parts of one repeat; with a single fold, one part of a quarter of the rows validates.
     *
     * @param list<float> $event
     * @param list<int>   $rows  the rows that are not sealed
     *
     * @return list<list<int>> validation rows of each fold, ascending
     */
    public function parts(array $event, array $rows, int $repeat): array
    {
        $random = self::random($this->seed, 'repeat '.$repeat);
        $parts = array_fill(0, $this->folds, []);
        foreach (self::strata($event, $rows) as $stratum) {
            $shuffled = $random->shuffleArray($stratum);
            if (1 === $this->folds) {
                array_push($parts[0], ...\array_slice($shuffled, 0, (int) round(0.25 * \count($stratum))));
                continue;
            }
            // Start at another fold in each stratum, so that the remainders do not all fall to the first.
            $start = $random->getInt(0, $this->folds - 1);
            foreach ($shuffled as $i => $row) {
                $parts[($start + $i) % $this->folds][] = $row;
            }
        }
        foreach ($parts as &$part) {
            sort($part);
        }

        return array_values($parts);
    }

    /**
     * @param list<float> $event
     * @param ?list<int>  $rows
     *
     * @return list<list<int>>
     */
    private static function strata(array $event, ?array $rows): array
    {
        $with = $without = [];
        foreach ($rows ?? array_keys($event) as $row) {
            $e = $event[$row];
            if (is_nan($e)) {
                continue;
            }
            if ($e > 0.5) {
                $with[] = $row;
            } else {
                $without[] = $row;
            }
        }

        return array_values(array_filter([$with, $without]));
    }

    public static function random(int $seed, string $purpose): Randomizer
    {
        return new Randomizer(new Xoshiro256StarStar(hash('sha256', $seed.':'.$purpose, true)));
    }

    /** @return array{sealedShare: float, folds: int, repeats: int, seed: int} */
    public function toArray(): array
    {
        return ['sealedShare' => $this->sealedShare, 'folds' => $this->folds, 'repeats' => $this->repeats, 'seed' => $this->seed];
    }

    /** @param array{sealedShare: float, folds: int, repeats: int, seed: int} $data */
    public static function fromArray(array $data): self
    {
        return new self((float) $data['sealedShare'], (int) $data['folds'], (int) $data['repeats'], (int) $data['seed']);
    }
}
