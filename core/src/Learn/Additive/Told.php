<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Additive;

use Dokimos\Core\Design\Codes;
use Dokimos\Core\Learn\ShownCurve;
use Dokimos\Core\Learn\ShownPair;
use Dokimos\Core\Learn\ShownPoint;
use Dokimos\Core\Table\DateColumn;
use Dokimos\Core\Table\NumberColumn;

/** Curves and pairs as they are read: with words for stretches, and a sentence on each. */
final readonly class Told
{
    /**
     * @param ?list<string> $classes
     * @param float         $sd      what a number is measured by
     */
    public function __construct(private Codes $codes, private ?array $classes, private float $sd)
    {
    }

    /**
     * @param list<Curve> $curves
     *
     * @return list<ShownCurve>
     */
    public function curves(array $curves): array
    {
        $out = [];
        foreach ($curves as $curve) {
            foreach (array_keys($curve->adds) as $class) {
                $points = $this->points($curve, $class);
                $missing = $curve->rows[0] > 0.0 ? $this->point($curve, $class, 0, 'missing', null, null) : null;
                $out[] = new ShownCurve(
                    $this->codes->columns[$curve->column],
                    \count($curve->adds) > 1 ? $this->classes[$class] ?? null : null,
                    !$this->codes->isLevels($curve->column),
                    $curve->isDate,
                    $this->sd * $curve->carries($class),
                    $this->says($curve, $points),
                    $points,
                    $missing,
                );
            }
        }
        usort($out, static fn (ShownCurve $a, ShownCurve $b): int => $b->carries <=> $a->carries);

        return $out;
    }

    private function point(Curve $curve, int $class, int $code, string $label, ?float $from, ?float $to): ShownPoint
    {
        [$adds, $spread] = [$this->sd * $curve->adds[$class][$code], $this->sd * $curve->spread[$class][$code]];

        return new ShownPoint($label, $from, $to, $adds, $adds - 2 * $spread, $adds + 2 * $spread, $curve->rows[$code]);
    }

    /** @return list<ShownPoint> */
    private function points(Curve $curve, int $class): array
    {
        $points = [];
        if ($this->codes->isLevels($curve->column)) {
            for ($code = 1, $n = \count($curve->rows); $code < $n; ++$code) {
                $points[] = $this->point($curve, $class, $code, $this->codes->level($curve->column, $code), null, null);
            }

            return $points;
        }
        $cuts = $this->codes->scales[$curve->column]['cuts'] ?? [];
        [$first, $last] = $curve->ends ?? [$cuts[0] ?? 0.0, $cuts[\count($cuts) - 1] ?? 0.0];
        for ($code = 1, $n = \count($curve->rows); $code < $n; ++$code) {
            $from = $code > 1 ? $cuts[$code - 2] : $first;
            $to = $cuts[$code - 1] ?? $last;
            $points[] = $this->point($curve, $class, $code, self::write($from).' to '.self::write($to), $from, $to);
        }

        return $points;
    }

    private static function write(float $v): string
    {
        return NumberColumn::write((float) \sprintf('%.4g', $v));
    }

    /** @param list<ShownPoint> $points */
    private function says(Curve $curve, array $points): string
    {
        $points = array_values(array_filter($points, static fn (ShownPoint $p): bool => $p->rows > 0.0));
        if (\count($points) < 2) {
            return '';
        }
        $adds = array_map(static fn (ShownPoint $p): float => $p->adds, $points);
        [$low, $high] = [min($adds), max($adds)];
        if ($high - $low < (null === $this->classes ? 1e-3 * $this->sd : 0.05)) {
            return '';
        }
        [$lowAt, $highAt] = [(int) array_search($low, $adds, true), (int) array_search($high, $adds, true)];
        $size = null === $this->classes
            ? NumberColumn::write((float) \sprintf('%.3g', $high - $low)).' more'
            : \sprintf('%.1f times the odds', exp(min(50.0, $high - $low)));
        if ($this->codes->isLevels($curve->column)) {
            return \sprintf('%s against %s: %s', $points[$highAt]->label, $points[$lowAt]->label, $size);
        }
        // Where it turns from its lowest tenth to its highest: the stretch in which nearly all of it happens.
        [$a, $b] = $lowAt < $highAt ? [$lowAt, $highAt] : [$highAt, $lowAt];
        $isRising = $lowAt < $highAt;
        for (; $a < $b - 1 && abs($adds[$a + 1] - ($isRising ? $low : $high)) <= 0.1 * ($high - $low); ++$a) {
        }
        for (; $b > $a + 1 && abs($adds[$b - 1] - ($isRising ? $high : $low)) <= 0.1 * ($high - $low); --$b) {
        }
        $from = $points[$a]->to ?? $points[$a]->from ?? 0.0;
        $to = $points[$b]->from ?? $points[$b]->to ?? 0.0;
        $write = static fn (float $v): string => $curve->isDate ? gmdate('j M Y', (int) ($v * DateColumn::DAY)) : self::write($v);

        return \sprintf(
            '%s %s: %s',
            $isRising ? 'rises' : 'falls',
            $write($from) === $write(max($from, $to)) ? 'at '.$write($from) : \sprintf('from %s to %s', $write($from), $write($to)),
            $isRising ? $size : str_replace(['more', 'times the odds'], ['less', 'times lower odds'], $size),
        );
    }

    /**
     * @param list<Pair> $pairs
     *
     * @return list<ShownPair>
     */
    public function pairs(array $pairs): array
    {
        $out = [];
        foreach ($pairs as $pair) {
            [$firstLabels, $secondLabels] = [
                $this->labels($pair->first, $pair->firstGrid),
                $this->labels($pair->second, $pair->secondGrid),
            ];
            $rows = array_chunk($pair->rows, max(1, $pair->secondGrid->size));
            foreach ($pair->adds as $class => $own) {
                $adds = array_chunk(array_map(fn (float $v): float => $this->sd * $v, $own), max(1, $pair->secondGrid->size));
                $out[] = new ShownPair(
                    $this->codes->columns[$pair->first],
                    $this->codes->columns[$pair->second],
                    \count($pair->adds) > 1 ? $this->classes[$class] ?? null : null,
                    $this->sd * $pair->carries($class),
                    self::saysOfPair(
                        $this->codes->columns[$pair->first],
                        $this->codes->columns[$pair->second],
                        $firstLabels,
                        $secondLabels,
                        $adds,
                        $rows,
                    ),
                    $firstLabels,
                    $secondLabels,
                    $adds,
                    $rows,
                );
            }
        }
        usort($out, static fn (ShownPair $a, ShownPair $b): int => $b->carries <=> $a->carries);

        return $out;
    }

    /**
     * @param list<string>      $firstLabels
     * @param list<string>      $secondLabels
     * @param list<list<float>> $adds
     * @param list<list<float>> $rows
     */
    private static function saysOfPair(
        string $first,
        string $second,
        array $firstLabels,
        array $secondLabels,
        array $adds,
        array $rows,
    ): string {
        $most = 0.0;
        $says = '';
        $all = max(1e-300, array_sum(array_map(array_sum(...), $rows)));
        foreach ($adds as $i => $own) {
            foreach ($own as $j => $v) {
                // A cell of few records is no finding.
                if ($rows[$i][$j] >= 0.005 * $all && abs($v) > $most) {
                    $most = abs($v);
                    $says = \sprintf(
                        'most where %s is %s and %s %s: %s %s',
                        $first,
                        $firstLabels[$i],
                        $second,
                        $secondLabels[$j],
                        $v > 0 ? 'up' : 'down',
                        NumberColumn::write((float) \sprintf('%.2g', abs($v))),
                    );
                }
            }
        }

        return $says;
    }

    /** @return list<string> */
    private function labels(int $f, Grid $grid): array
    {
        $out = array_fill(0, $grid->size, '');
        $out[0] = 'missing';
        $cuts = $this->codes->scales[$f]['cuts'] ?? [];
        $by = [];
        foreach ($grid->groups as $code => $group) {
            if ($code > 0) {
                $by[$group][] = $code;
            }
        }
        foreach ($by as $group => $codes) {
            [$first, $last] = [$codes[0], $codes[\count($codes) - 1]];
            if ($this->codes->isLevels($f)) {
                $out[$group] = $first === $last ? $this->codes->level($f, $first) : 'others';
                continue;
            }
            $low = $first > 1 ? self::write($cuts[$first - 2]) : null;
            $high = isset($cuts[$last - 1]) ? self::write($cuts[$last - 1]) : null;
            $out[$group] = match (true) {
                null === $low => 'up to '.$high,
                null === $high => 'over '.$low,
                default => $low.' to '.$high,
            };
        }

        return array_values($out);
    }
}
