<?php

declare(strict_types=1);

namespace Dokimos\Core\Search;

use Dokimos\Core\Figure\Figure;
use Dokimos\Core\Figure\Sample;
use Dokimos\Core\Measure\Interval;
use Dokimos\Core\Random;
use Dokimos\Core\Task\Answers;

/**
 * The figure of the best of many tries with its luck taken out: rows are drawn with replacement, the best on these is chosen, and judged on the
 * rows left out. Definition: docs/methods/search.md.
 */
final readonly class Winner
{
    private const DRAWS = 200;
    /** Rows looked at, at most: evenly taken. */
    private const ROWS = 6000;
    /** So many of the best are chosen among in each draw. */
    private const AMONG = 60;
    /** The rows left out are exp(-1) of all; a figure of all rows varies by so much less than one of these. */
    private const LEFT_OUT = 0.36787944117144233;

    /**
     * @param ?float    $luck   what being chosen had added, 0 or more; null where too few rows or tries are there to tell
     * @param ?float    $error  of the corrected figure, for rows having been drawn
     * @param list<int> $chosen how often each of the tries was the best of a draw, in the order given
     */
    private function __construct(public ?float $luck, public ?float $error, public array $chosen)
    {
    }

    /**
     * @param list<float>   $outcome
     * @param list<Answers> $answers of each try on rows that its models had not seen, best first; no NAN
     * @param ?list<float>  $weights per row
     */
    public static function of(Figure $figure, array $outcome, array $answers, int $seed, ?array $weights = null): self
    {
        $n = \count($outcome);
        $answers = \array_slice($answers, 0, self::AMONG);
        if ([] === $answers || $n < 20) {
            return new self(null, null, []);
        }
        $picked = $n <= self::ROWS ? range(0, $n - 1) : array_map(
            static fn (int $i): int => intdiv($i * $n, self::ROWS),
            range(0, self::ROWS - 1),
        );
        $size = \count($picked);
        $own = array_map(static fn (int $row): float => $outcome[$row], $picked);
        $counted = null === $weights ? null : array_map(static fn (int $row): float => $weights[$row], $picked);
        $measured = array_map(static fn (Answers $all): \Closure => $figure->redrawn(new Sample($own, $all->take($picked))), $answers);
        $random = Random::stream($seed, 'winner of a search');
        $sign = $figure->more ? 1.0 : -1.0;
        $left = [];
        $chosen = array_fill(0, \count($answers), 0);
        for ($k = 0; $k < self::DRAWS; ++$k) {
            $counts = array_fill(0, $size, 0);
            for ($i = 0; $i < $size; ++$i) {
                ++$counts[$random->getInt(0, $size - 1)];
            }
            $out = [];
            foreach ($counts as $i => $c) {
                $w = $counted[$i] ?? 1.0;
                $out[] = 0 === $c ? $w : 0.0;
                $counts[$i] = $c * $w;
            }
            $best = $at = null;
            foreach ($measured as $t => $one) {
                $value = $one($counts);
                if (null !== $value && (null === $best || $sign * $value > $sign * $best)) {
                    [$best, $at] = [$value, $t];
                }
            }
            $value = null === $at ? null : $measured[$at]($out);
            if (null !== $at && null !== $value) {
                ++$chosen[$at];
                $left[] = $value;
            }
        }
        $draws = \count($left);
        $all = $measured[0]($counted ?? array_fill(0, $size, 1.0));
        if ($draws < 2 || null === $all) {
            return new self(null, null, array_values($chosen));
        }
        $mean = array_sum($left) / $draws;
        $square = array_sum(array_map(static fn (float $v): float => ($v - $mean) ** 2, $left)) / ($draws - 1);
        // Rows left out vary more than all rows do: both are drawn from the same, without replacement.
        $error = sqrt($square * self::LEFT_OUT / (1 - self::LEFT_OUT) * $size / $n);

        return new self(max(0.0, $sign * ($all - $mean)), $error, array_values($chosen));
    }

    /** The figure while searching with luck taken out, and its interval. */
    public function corrected(Figure $figure, float $searching): Interval
    {
        $value = $searching - ($figure->more ? 1.0 : -1.0) * ($this->luck ?? 0.0);
        if (null === $this->error) {
            return new Interval($value);
        }

        return new Interval($value, $value - 1.959963984540054 * $this->error, $value + 1.959963984540054 * $this->error);
    }
}
