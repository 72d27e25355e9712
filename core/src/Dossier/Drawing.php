<?php

declare(strict_types=1);

namespace Dokimos\Core\Dossier;

/** Pictures of a dossier, as SVG. */
final class Drawing
{
    private const WIDE = 560;
    private const HIGH = 250;
    private const COLORS = ['#1b6b60', '#80570f', '#5a655f'];

    /**
     * Lines on a square of shares, or of any two numbers.
     *
     * @param array<string, list<array{float, float}>> $lines by what they are
     * @param array{float, float}                      $x     ends of the axis
     * @param array{float, float}                      $y
     */
    public static function lines(array $lines, array $x, array $y, string $below, string $beside, bool $diagonal = false): string
    {
        [$left, $top, $right, $bottom] = [46, 10, self::WIDE - 150, self::HIGH - 42];
        $atX = static fn (float $v): float => $left + ($v - $x[0]) / max(1e-9, $x[1] - $x[0]) * ($right - $left);
        $atY = static fn (float $v): float => $bottom - ($v - $y[0]) / max(1e-9, $y[1] - $y[0]) * ($bottom - $top);
        $out = '';
        foreach ([0.0, 0.25, 0.5, 0.75, 1.0] as $part) {
            $v = $y[0] + $part * ($y[1] - $y[0]);
            $h = $x[0] + $part * ($x[1] - $x[0]);
            $out .= self::line($left, $atY($v), $right, $atY($v), '#d9d3c4')
                .self::text($left - 6, $atY($v) + 4, self::number($v), 'end')
                .self::text($atX($h), $bottom + 16, self::number($h), 'middle');
        }
        if ($diagonal) {
            $out .= self::line($atX($x[0]), $atY($x[0]), $atX($x[1]), $atY($x[1]), '#a59d8a', '2 3');
        }
        $k = 0;
        foreach ($lines as $name => $points) {
            $color = self::COLORS[$k % 3];
            $path = '';
            foreach ($points as $i => [$a, $b]) {
                $path .= (0 === $i ? 'M' : 'L').self::short($atX($a)).' '.self::short($atY($b));
            }
            $dash = $k > 0 ? ' stroke-dasharray="4 3"' : '';
            $out .= \sprintf('<path d="%s" fill="none" stroke="%s" stroke-width="2"%s/>', $path, $color, $dash)
                .self::line($right + 8, $top + 8 + 18 * $k, $right + 26, $top + 8 + 18 * $k, $color)
                .self::text($right + 32, $top + 12 + 18 * $k, (string) $name, 'start');
            ++$k;
        }

        return self::whole(
            $out.self::text(
                ($left + $right) / 2,
                $bottom + 34,
                $below,
                'middle',
            ).self::text($left - 40, $top, '', 'start').self::title($beside),
        );
    }

    /**
     * Values with their intervals, one a line, on one scale.
     *
     * @param list<array{string, ?float, ?float, ?float}> $lines  what it is, value, low, high
     * @param ?float                                      $beside a value that all are held against
     */
    public static function intervals(array $lines, string $below, ?float $beside = null): string
    {
        $ends = array_filter(
            [...array_merge(...array_map(static fn (array $l): array => [$l[1], $l[2], $l[3]], $lines)), $beside],
            is_float(...),
        );
        if ([] === $ends) {
            return self::whole('');
        }
        [$least, $most] = [min($ends), max($ends)];
        $room = max(1e-9, $most - $least) * 0.06;
        [$least, $most] = [$least - $room, $most + $room];
        [$left, $right] = [200, self::WIDE - 60];
        $at = static fn (float $v): float => $left + ($v - $least) / ($most - $least) * ($right - $left);
        $out = '';
        $high = 22 * \count($lines) + 46;
        if (null !== $beside) {
            $out .= self::line($at($beside), 6, $at($beside), $high - 36, '#80570f', '4 3');
        }
        foreach ($lines as $i => [$name, $value, $low, $up]) {
            $y = 16 + 22 * $i;
            $out .= self::text($left - 10, $y + 4, mb_strimwidth($name, 0, 30, '…'), 'end');
            if (null === $value) {
                continue;
            }
            if (null !== $low && null !== $up) {
                $out .= self::line($at($low), $y, $at($up), $y, '#1b6b60');
            }
            $out .= \sprintf('<circle cx="%s" cy="%s" r="3.4" fill="#1b6b60"/>', self::short($at($value)), $y)
                .self::text($right + 8, $y + 4, self::number($value), 'start');
        }
        foreach ([$least + $room, ($least + $most) / 2, $most - $room] as $v) {
            $out .= self::text($at($v), $high - 22, self::number($v), 'middle');
        }

        return self::whole($out.self::text(($left + $right) / 2, $high - 6, $below, 'middle'), $high);
    }

    private static function title(string $text): string
    {
        return '' === $text ? '' : self::text(self::WIDE - 142, self::HIGH - 60, mb_strimwidth($text, 0, 26, '…'), 'start');
    }

    private static function whole(string $of, int $high = self::HIGH): string
    {
        return \sprintf(
            '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 %d %d" width="%d" height="%d">%s</svg>',
            self::WIDE,
            $high,
            self::WIDE,
            $high,
            $of,
        );
    }

    private static function line(float $x1, float $y1, float $x2, float $y2, string $color, string $dash = ''): string
    {
        return \sprintf(
            '<line x1="%s" y1="%s" x2="%s" y2="%s" stroke="%s"%s/>',
            self::short($x1),
            self::short($y1),
            self::short($x2),
            self::short($y2),
            $color,
            '' === $dash ? ' stroke-width="1.4"' : ' stroke-dasharray="'.$dash.'"',
        );
    }

    private static function text(float $x, float $y, string $text, string $anchor): string
    {
        return '' === $text ? '' : \sprintf(
            '<text x="%s" y="%s" text-anchor="%s" font-family="DejaVu Sans, sans-serif" font-size="11" fill="#5a655f">%s</text>',
            self::short($x),
            self::short($y),
            $anchor,
            htmlspecialchars($text, \ENT_XML1 | \ENT_QUOTES | \ENT_SUBSTITUTE, 'UTF-8'),
        );
    }

    private static function short(float $v): string
    {
        return (string) round($v, 1);
    }

    private static function number(float $v): string
    {
        return (string) (float) \sprintf('%.3g', $v);
    }
}
