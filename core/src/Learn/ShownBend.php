<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn;

use Dokimos\Core\Design\Coding;

/** What a number adds along its curve, against its middle knot. */
final readonly class ShownBend
{
    private const POINTS = 60;

    /**
     * @param list<float> $knots
     * @param list<float> $at
     * @param list<float> $adds  log-odds of an event, or in the unit of the number
     */
    public function __construct(public string $column, public array $knots, public array $at, public array $adds)
    {
    }

    /**
     * @param array<array-key, float> $coefficients by term
     *
     * @return list<self>
     */
    public static function all(Coding $coding, array $coefficients): array
    {
        $out = [];
        foreach ($coding->bends as $name => $bends) {
            $curve = $coding->curve((string) $name, $coefficients);
            if (null === $curve) {
                continue;
            }
            $knots = $bends->knots;
            [$first, $last] = [$knots[0], $knots[\count($knots) - 1]];
            $reach = 0.15 * ($last - $first);
            $middle = $curve($knots[intdiv(\count($knots), 2)]);
            $at = $adds = [];
            for ($k = 0; $k <= self::POINTS; ++$k) {
                $at[] = $x = $first - $reach + $k * ($last - $first + 2 * $reach) / self::POINTS;
                $adds[] = $curve($x) - $middle;
            }
            $out[] = new self((string) $name, $knots, $at, $adds);
        }

        return $out;
    }
}
