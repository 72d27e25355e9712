<?php

declare(strict_types=1);

namespace Dokimos\Core\Figure;

use Dokimos\Core\Math\Distribution\Normal;
use Dokimos\Core\Measure\Interval;
use Dokimos\Core\Task\Task;

/** How far off a share of the rows is at most, with the interval of order statistics (Conover 1999, section 3.2). */
final readonly class Within extends Figure
{
    use OfErrors;

    private function __construct(private float $share)
    {
        parent::__construct(
            'within'.(int) round(100 * $share),
            \sprintf('within %d%%', (int) round(100 * $share)),
            \sprintf('what %d%% of the rows are off by at most', (int) round(100 * $share)),
            \sprintf('So far off are %d of 100 predictions at most; in the unit of the target.', (int) round(100 * $share)),
            [Task::NUMBER],
            false,
            false,
            inUnits: true,
            least: 0.0,
        );
    }

    public static function half(): self
    {
        return new self(0.5);
    }

    public static function mostRows(): self
    {
        return new self(0.9);
    }

    protected function measured(Sample $sample): ?float
    {
        $sizes = array_map(abs(...), self::errors($sample));
        asort($sizes);
        $all = null === $sample->weights ? \count($sizes) : array_sum($sample->weights);
        $sum = 0.0;
        foreach ($sizes as $row => $size) {
            $sum += $sample->weights[$row] ?? 1.0;
            if ($sum >= $this->share * $all) {
                return $size;
            }
        }

        return null;
    }

    public function interval(Sample $sample): Interval
    {
        $sorted = array_map(abs(...), self::errors($sample));
        sort($sorted);
        $n = \count($sorted);
        $half = Normal::Z95 * sqrt($n * $this->share * (1 - $this->share));
        $place = static fn (float $k): int => (int) max(0, min($n - 1, $k));

        return new Interval($sorted[$place(ceil($n * $this->share) - 1)], $sorted[$place(floor($n * $this->share - $half) - 1)], $sorted[$place(ceil($n * $this->share + $half) - 1)]);
    }

    private function weighted(): bool
    {
        return false;
    }
}
