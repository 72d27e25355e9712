<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Findings;

use Dokimos\Core\Findings\DateChecks;
use Dokimos\Core\Findings\Finding;
use Dokimos\Core\Findings\MarkChecks;
use Dokimos\Core\Format\CsvFile;
use Dokimos\Core\Table\DateColumn;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/** What was written beside numbers, and days that stand for no date. */
final class MarksTest extends TestCase
{
    /** @return iterable<string, array{list<string>, list<string>}> cells and what is said of them */
    public static function written(): iterable
    {
        yield 'one currency' => [['€5', '6 EUR', '7'], []];
        yield 'percents alone' => [['5%', '6 %'], []];
        yield 'several currencies' => [
            ['€5', '6 EUR', '$7', '8'],
            ['x holds amounts of several currencies: 2 EUR and 1 USD, and 1 without one. All were read as plain numbers.'],
        ];
        yield 'percents among plain numbers' => [
            ['5%', '6', '7', '8%', '9.5'],
            ['x holds 2 percent values among 3 plain numbers: 5% was read as 0.05, 5 as 5.'],
        ];
        yield 'plain numbers' => [['5', '-6', '7.5', ''], []];
    }

    /**
     * @param list<string> $cells
     * @param list<string> $says
     */
    #[DataProvider('written')]
    public function testUnitsThatFellTogetherAreNamed(array $cells, array $says): void
    {
        // Few different values, and as many as there are records: they are read in two ways.
        foreach ([300, 1] as $times) {
            $file = (string) tempnam(sys_get_temp_dir(), 'dokimos');
            $all = array_merge(...array_fill(0, $times, $cells));
            file_put_contents(
                $file,
                "id,x\n".implode("\n", array_map(static fn (string $c, int $i): string => "r$i,$c", $all, array_keys($all)))."\n",
            );
            [, $imported] = (new CsvFile($file))->read();
            unlink($file);
            $marks = $imported->columns[1]->profile['marks'] ?? [];
            self::assertSame('number', $imported->columns[1]->kind->value);
            self::assertIsArray($marks);
            $said = array_map(static fn (Finding $f): string => $f->sentence, MarkChecks::of('x', array_filter($marks, is_int(...))));
            if (1 === $times) {
                self::assertSame($says, $said);
            }
            self::assertCount(\count($says), $said);
            [] === $marks || self::assertSame(\count(array_filter($all, static fn (string $c): bool => '' !== $c)), array_sum($marks));
        }
    }

    /** @return iterable<string, array{string, int}> */
    public static function days(): iterable
    {
        yield 'the first year' => ['0001-01-01', 1];
        yield 'the last one' => ['9999-12-31', 1];
        yield 'the birth of clocks' => ['1970-01-01', 1];
        yield 'an old day that is none of them' => ['1971-03-04', 0];
    }

    #[DataProvider('days')]
    public function testADayThatStandsForNoDateIsNamed(string $day, int $found): void
    {
        $seconds = array_map(static fn (int $i): int => 1735689600 + 86400 * $i, range(0, 60));
        $odd = (new \DateTimeImmutable($day.' UTC'))->getTimestamp();
        $findings = DateChecks::of('d', new DateColumn([...$seconds, $odd, $odd, DateColumn::MISSING]));
        self::assertCount($found, $findings);
        foreach ($findings as $finding) {
            self::assertSame(
                \sprintf(
                    'd is %s in 2 records, years away from all others: most likely a mark for no date, and every span of time counts it.',
                    $day,
                ),
                $finding->sentence,
            );
            self::assertSame([61, 62], $finding->rows);
            self::assertSame([[$day, '']], $finding->remedies[0]['step']['pairs'] ?? null);
        }
        $close = array_map(static fn (int $i): int => $odd + 86400 * $i, range(0, 60));
        self::assertSame([], DateChecks::of('d', new DateColumn($close)), 'others lie beside it');
    }
}
