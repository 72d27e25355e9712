<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Measure;

use Dokimos\Core\Measure\BinaryReport;
use Dokimos\Core\Measure\BinaryScores;
use Dokimos\Core\Measure\DeLong;
use Dokimos\Core\Measure\Interval;
use Dokimos\Core\Measure\McNemar;
use Dokimos\Core\Tests\Files;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

final class BinaryFiguresTest extends TestCase
{
    /** @return iterable<string, array{string}> */
    public static function parts(): iterable
    {
        foreach (['score', 'score2', 'delong_test', 'mcnemar', 'weighted_score'] as $part) {
            yield $part => [$part];
        }
    }

    #[DataProvider('parts')]
    public function testEveryReferenceFigureHolds(string $part): void
    {
        $table = Files::table(Files::folder('metrics-binary').'/data.csv');
        $y = $table->number('y')->values;
        $score = $table->number('score')->values;
        $score2 = $table->number('score2')->values;
        /** @var array<string, array{cutoffs?: list<array{cutoff: float}>}> $expected */
        $expected = Files::expected('metrics-binary');
        $cutoffs = array_map(floatval(...), array_column($expected[$part]['cutoffs'] ?? [], 'cutoff'));
        $got = match ($part) {
            'score' => BinaryReport::of($y, $score, $cutoffs),
            'score2' => BinaryReport::of($y, $score2, $cutoffs),
            'delong_test' => DeLong::test(DeLong::of($y, $score), DeLong::of($y, $score2)),
            'mcnemar' => McNemar::test($y, $score, $score2, 0.5),
            default => BinaryReport::weighted($y, $score, $table->number('weight')->values, $cutoffs),
        };
        $this->compare($expected[$part], $got, $part);
    }

    private function compare(mixed $expected, mixed $got, string $path): void
    {
        if (\is_array($expected)) {
            self::assertIsArray($got, $path);
            foreach ($expected as $key => $value) {
                self::assertArrayHasKey($key, $got, $path);
                $this->compare($value, $got[$key], $path.'/'.$key);
            }
        } elseif (\is_float($expected) || \is_int($expected)) {
            self::assertIsNumeric($got, $path);
            $tolerance = 1 === preg_match('#(^|/|_)p$#', $path) ? 1e-8 : 1e-10;
            self::assertLessThanOrEqual($tolerance * abs($expected) + 1e-12, abs($got - $expected), $path);
        } else {
            self::assertSame($expected, $got, $path);
        }
    }

    public function testAucIsTheShareOfPairsInOrder(): void
    {
        mt_srand(3);
        $event = $score = [];
        for ($i = 0; $i < 80; ++$i) {
            $event[] = (float) (mt_rand(0, 99) < 30);
            $score[] = mt_rand(0, 20) / 20;
        }
        $right = $pairs = 0.0;
        foreach ($event as $i => $a) {
            foreach ($event as $j => $b) {
                if ($a > $b) {
                    ++$pairs;
                    $right += $score[$i] > $score[$j] ? 1 : ($score[$i] === $score[$j] ? 0.5 : 0);
                }
            }
        }
        self::assertEqualsWithDelta($right / $pairs, (new BinaryScores($event, $score))->auc(), 1e-12);
        self::assertEqualsWithDelta($right / $pairs, DeLong::of($event, $score)->auc, 1e-12);
    }

    public function testWeightsCountAsRepetition(): void
    {
        $plain = new BinaryScores([1.0, 1.0, 0.0, 0.0, 0.0], [0.9, 0.9, 0.4, 0.4, 0.6]);
        $weighted = new BinaryScores([1.0, 0.0, 0.0], [0.9, 0.4, 0.6], [2.0, 2.0, 1.0]);
        self::assertEqualsWithDelta($plain->logLoss(), $weighted->logLoss(), 1e-14);
        self::assertEqualsWithDelta($plain->auc(), $weighted->auc(), 1e-14);
        self::assertEquals($plain->at(0.5)->toArray(), $weighted->at(0.5)->toArray());
    }

    public function testNothingToCountGivesNoFigureRatherThanAnError(): void
    {
        self::assertNull(Interval::wilson(0, 0)->value);
        self::assertNull((new BinaryScores([1.0, 1.0], [0.2, 0.4]))->auc());
        self::assertNull((new BinaryScores([1.0, 0.0], [0.2, 0.4]))->at(0.9)->toArray()['precision']);
    }

    public function testWilsonsIntervalOfAKnownCase(): void
    {
        // 15 of 50: Newcombe 1998, table I, method 3 gives 0.1910 to 0.4375 for this share.
        $i = Interval::wilson(15, 50);
        self::assertEqualsWithDelta(0.1910, (float) $i->low, 5e-5);
        self::assertEqualsWithDelta(0.4375, (float) $i->high, 5e-5);
    }
}
