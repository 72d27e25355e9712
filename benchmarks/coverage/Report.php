<?php

declare(strict_types=1);

namespace Dokimos\Benchmarks;

use Random\Engine\Xoshiro256StarStar;
use Random\Randomizer;

/** Measured shares and the bounds they must keep, a line each; and the random numbers of a simulation. */
final class Report
{
    private bool $good = true;
    private readonly Randomizer $random;

    public function __construct(string $purpose)
    {
        $this->random = new Randomizer(new Xoshiro256StarStar(hash('sha256', $purpose, true)));
    }

    public function line(string $what, float $measured, float $least, float $most, string $more = '', bool $percent = true): void
    {
        $kept = $measured >= $least && $measured <= $most;
        $this->good = $this->good && $kept;
        $say = static fn (float $v): string => $percent ? \sprintf('%.1f %%', 100 * $v) : \sprintf('%.3f', $v);
        printf("%-64s %9s   %s to %s   %s %s\n", $what, $say($measured), $say($least), $say($most), $kept ? 'kept' : 'NOT KEPT', $more);
    }

    public function end(): never
    {
        exit($this->good ? 0 : 1);
    }

    public function share(): float
    {
        return $this->random->getInt(1, 1_000_000) / 1_000_001;
    }

    public function whole(int $least, int $most): int
    {
        return $this->random->getInt($least, $most);
    }

    public function normal(): float
    {
        return sqrt(-2 * log($this->share())) * cos(2 * \M_PI * $this->share());
    }

    public function poisson(float $mean): float
    {
        $limit = exp(-$mean);
        $k = 0;
        for ($p = $this->share(); $p > $limit; $p *= $this->share()) {
            ++$k;
        }

        return (float) $k;
    }

    public function student5(): float
    {
        $square = 0.0;
        $z = $this->normal();
        for ($i = 0; $i < 5; ++$i) {
            $square += $this->normal() ** 2;
        }

        return $z / sqrt($square / 5);
    }
}
