<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Tree;

/** What divisions by each column gained, as shares of all. */
final class Gains
{
    /**
     * @param list<string> $columns
     * @param list<float>  $gains
     *
     * @return list<array{column: string, share: float}> share of all gain, most first
     */
    public static function shares(array $columns, array $gains): array
    {
        $sum = array_sum($gains);
        $out = [];
        foreach ($columns as $f => $name) {
            $out[] = ['column' => $name, 'share' => $sum > 0.0 ? $gains[$f] / $sum : 0.0];
        }
        usort($out, static fn (array $a, array $b) => $b['share'] <=> $a['share'] ?: strcmp($a['column'], $b['column']));

        return $out;
    }
}
