<?php

declare(strict_types=1);

namespace App\Dossier;

use App\Trial\FigureView;

/** Figures and words as a dossier prints them. */
final class Said
{
    public static function word(mixed $v): string
    {
        return \is_scalar($v) ? (string) $v : '';
    }

    public static function listed(mixed $v): string
    {
        return \is_array($v) ? implode(' ', array_map(self::word(...), $v)) : self::word($v);
    }

    public static function ended(string $sentence): string
    {
        return rtrim($sentence, '.').'.';
    }

    public static function change(int $n): string
    {
        return 0 === $n ? '0' : ($n > 0 ? '+' : '−').number_format(abs($n));
    }

    public static function share(float $v): string
    {
        return \sprintf('%.1f%%', 100 * $v);
    }

    public static function said(FigureView $f, ?float $v): string
    {
        return match (true) {
            null === $v => '–',
            $f->inShare => self::share($v),
            $f->inUnits => (string) (float) \sprintf('%.4g', $v),
            default => \sprintf('%.3f', $v),
        };
    }

    public static function bounded(FigureView $f, ?float $v, ?float $low, ?float $high): string
    {
        return self::said($f, $v).(null === $low || null === $high ? '' : \sprintf(
            ' (%s to %s)',
            self::said($f, $low),
            self::said($f, $high),
        ));
    }
}
