<?php

declare(strict_types=1);

namespace Dokimos\Core\Recheck;

use Dokimos\Core\Calibrate\CannotCalibrate;
use Dokimos\Core\Calibrate\Sigmoid;
use Dokimos\Core\Figure\Figure;
use Dokimos\Core\Task\Answers;
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
     * @param Judged  $learned  the earlier part, answered by the model
     * @param Judged  $measured the newest, answered by it
     * @param ?Judged $anew     the newest, answered by the same fitted on old and newer records; null where it could not be
     *
     * @return list<array{key: string, figure: array<string, ?float>, promise: ?array<string, mixed>}>
     */
    public static function of(Judged $learned, Judged $measured, ?Judged $anew, Figure $figure): array
    {
        $out = [self::line(self::LEAVE, $learned, $measured, $figure)];
        $set = self::calibrated($learned->known(), $measured);
        if (null !== $set) {
            $out[] = self::line(self::CALIBRATE, $learned, $set, $figure);
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

    /** Chances through a sigmoid, numbers moved by what they were off; null where that cannot be learned. */
    private static function calibrated(Judged $learned, Judged $measured): ?Judged
    {
        if (Task::TWO === $learned->task) {
            try {
                $by = Sigmoid::fit($learned->outcome, $learned->answers->values);
            } catch (CannotCalibrate) {
                return null;
            }

            return new Judged($measured->task, $measured->outcome, new Answers(array_map(
                static fn (float $p): float => is_nan($p) ? $p : $by->of($p),
                $measured->answers->values,
            )));
        }
        if (Task::NUMBER !== $learned->task || $learned->rows() < 2) {
            return null;
        }
        $off = array_sum(array_map(
            static fn (float $y, float $said): float => $y - $said,
            $learned->outcome,
            $learned->answers->values,
        )) / $learned->rows();

        return new Judged(
            $measured->task,
            $measured->outcome,
            new Answers(array_map(static fn (float $v): float => $v + $off, $measured->answers->values)),
        );
    }
}
