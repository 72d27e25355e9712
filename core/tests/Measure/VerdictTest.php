<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Measure;

use Dokimos\Core\Measure\Interval;
use Dokimos\Core\Measure\Verdict;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

final class VerdictTest extends TestCase
{
    /** @return iterable<string, array{string, Interval, int, float, ?float}> */
    public static function shares(): iterable
    {
        yield 'clear above' => [Verdict::SOUND, new Interval(0.5, 0.45, 0.55), 400, 0.2, null];
        yield 'clear below' => [Verdict::SOUND, new Interval(0.1, 0.05, 0.15), 400, 0.2, null];
        yield 'the end touches' => [Verdict::SOUND, new Interval(0.25, 0.2, 0.3), 400, 0.2, null];
        yield 'it holds the cut-off' => [Verdict::SPLIT, new Interval(0.22, 0.15, 0.3), 400, 0.2, null];
        yield 'too wide' => [Verdict::THIN, new Interval(0.6, 0.45, 0.7), 400, 0.2, null];
        yield 'too few' => [Verdict::THIN, new Interval(0.9, 0.85, 0.95), 29, 0.2, null];
        yield 'just enough' => [Verdict::SOUND, new Interval(0.9, 0.85, 0.95), 30, 0.2, null];
        yield 'without an interval' => [Verdict::THIN, new Interval(0.9), 400, 0.2, null];
        yield 'a mean, wide by its own measure' => [Verdict::SOUND, new Interval(50.0, 40.0, 60.0), 400, 30.0, 25.0];
    }

    #[DataProvider('shares')]
    public function testWhatCanBeReliedOn(string $verdict, Interval $share, int $rows, float $cutoff, ?float $wide): void
    {
        self::assertSame($verdict, Verdict::of($share, $rows, $cutoff, $wide));
    }
}
