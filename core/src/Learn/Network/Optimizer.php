<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Network;

/** Steps down a slope: Adam (Kingma and Ba 2015), or with momentum (Polyak 1964). */
final class Optimizer
{
    public const ADAM = 'Adam';
    public const MOMENTUM = 'momentum';

    private const DECAY_1 = 0.9;
    private const DECAY_2 = 0.999;
    private const EPSILON = 1e-8;
    private const KEPT = 0.9;

    /** @var list<float> */
    private array $m;
    /** @var list<float> */
    private array $v;
    private float $power1 = 1.0;
    private float $power2 = 1.0;

    public function __construct(private readonly string $how, int $parameters)
    {
        $this->m = $this->v = $parameters > 0 ? array_fill(0, $parameters, 0.0) : [];
    }

    /**
     * The parameters after one step. Hot loop.
     *
     * @param list<float> $p
     * @param list<float> $g slope at the parameters
     *
     * @return list<float>
     */
    public function step(array $p, array $g, float $rate): array
    {
        $m = $this->m;
        $this->m = [];
        if (self::MOMENTUM === $this->how) {
            foreach ($g as $i => $slope) {
                $u = self::KEPT * $m[$i] - $rate * $slope;
                $m[$i] = $u;
                $p[$i] += $u;
            }
            $this->m = array_values($m);

            return array_values($p);
        }
        $v = $this->v;
        $this->v = [];
        $this->power1 *= self::DECAY_1;
        $this->power2 *= self::DECAY_2;
        [$one, $two] = [1.0 - $this->power1, 1.0 - $this->power2];
        foreach ($g as $i => $slope) {
            $a = self::DECAY_1 * $m[$i] + (1.0 - self::DECAY_1) * $slope;
            $b = self::DECAY_2 * $v[$i] + (1.0 - self::DECAY_2) * $slope * $slope;
            $m[$i] = $a;
            $v[$i] = $b;
            $p[$i] -= $rate * ($a / $one) / (sqrt($b / $two) + self::EPSILON);
        }
        // They are lists already: nothing is copied.
        $this->m = array_values($m);
        $this->v = array_values($v);

        return array_values($p);
    }
}
