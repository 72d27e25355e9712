<?php

declare(strict_types=1);

namespace Dokimos\Core\Findings\Outcome;

/** Every other record of each class, so that both halves have the same share of each. */
final class Halves
{
    /**
     * @param list<float> $classes place of each row's class, NAN = unknown
     *
     * @return array{array{list<int>, list<int>}, array<int, int>} the halves, and how many there are of each class
     */
    public static function of(array $classes): array
    {
        $halves = [[], []];
        $counts = [];
        foreach ($classes as $row => $c) {
            if ($c === $c) {
                $class = (int) $c;
                $before = $counts[$class] ?? 0;
                $halves[$before & 1][] = $row;
                $counts[$class] = $before + 1;
            }
        }

        return [$halves, $counts];
    }
}
