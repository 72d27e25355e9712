<?php

declare(strict_types=1);

namespace Dokimos\Core\Recheck;

use Dokimos\Core\Calibrate\Calibrated;
use Dokimos\Core\Calibrate\CannotCalibrate;
use Dokimos\Core\Calibrate\Way;
use Dokimos\Core\Figure\Figure;
use Dokimos\Core\Task\Task;

/**
 * What could be done, each learned from the earlier part of the newer records and measured on the newest, which nothing has learned from.
 */
final class Remedies
{
    public const LEAVE = 'leave';
    public const CALIBRATE = 'calibrate';
    public const ANEW = 'anew';
    /** Of the newer records the first so many are learned from. */
    public const SHARE = 0.6;
    private const FEWEST = 60;

    /** How many of the newer records are learned from; 0 where there are too few to learn and to measure. */
    public static function cut(int $rows): int
    {
        return $rows < 2 * self::FEWEST ? 0 : (int) round(self::SHARE * $rows);
    }

    /**
     * @param Judged      $learned  the earlier part, answered by the model
     * @param Judged      $measured the newest, answered by it
     * @param ?Calibrated $set      as learned from the earlier part; null where it could not be
     * @param Judged      $raw      the newest, answered without any calibration
     * @param ?Judged     $anew     the newest, answered by the same fitted on old and newer records; null where it could not be
     *
     * @return list<array{key: string, figure: array<string, ?float>, promise: ?array<string, mixed>}>
     */
    public static function of(Judged $learned, Judged $measured, ?Calibrated $set, Judged $raw, ?Judged $anew, Figure $figure): array
    {
        $out = [self::line(self::LEAVE, $learned, $measured, $figure)];
        if (null !== $set) {
            $out[] = self::line(self::CALIBRATE, $learned, new Judged($raw->task, $raw->outcome, $set->of($raw->answers)), $figure);
        }
        if (null !== $anew) {
            $out[] = self::line(self::ANEW, $learned, $anew, $figure);
        }

        return $out;
    }

    /** @return array{key: string, figure: array<string, ?float>, promise: ?array<string, mixed>} */
    private static function line(string $key, Judged $learned, Judged $of, Figure $figure): array
    {
        $known = $of->known();
        $sample = $known->sample();

        return [
            'key' => $key,
            'figure' => (null === $sample ? null : $figure->interval($sample))?->toArray() ?? [
                'value' => null,
                'low' => null,
                'high' => null,
            ],
            'promise' => Promise::of($learned->known(), $known)?->toArray(),
        ];
    }

    /**
     * Chances through a sigmoid, of several classes each by itself; numbers moved by what they were off.
     *
     * @param Judged $learned answered without any calibration; those without a known outcome are left out
     *
     * @throws CannotCalibrate where there is nothing to learn it from
     */
    public static function calibration(Judged $learned): Calibrated
    {
        $known = $learned->known();

        return Task::NUMBER === $known->task
            ? Calibrated::shifted($known->outcome, $known->answers)
            : Calibrated::fit(Way::SIGMOID, $known->outcome, $known->answers);
    }
}
