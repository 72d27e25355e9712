<?php

declare(strict_types=1);

namespace App\Tests\Console;

use App\Tests\Fixture;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Symfony\Component\Process\Process;

/** dokimos:decide as a person types it. */
final class DecideTest extends TestCase
{
    private static string $folder;

    public static function setUpBeforeClass(): void
    {
        self::$folder = sys_get_temp_dir().'/dokimos-decide-'.bin2hex(random_bytes(4));
        mkdir(self::$folder);
        $lines = ["id,chance,worth,day,because\r\n"];
        foreach ([0.9, 0.1, 0.5, 0.5, 0.5, 0.8, '', 0.7] as $i => $chance) {
            $lines[] = \sprintf(
                "B%d,%s,%s,%s,%s\r\n",
                9 - $i,
                $chance,
                7 === $i ? '' : 100,
                $i % 2 ? 'Mon' : 'Tue',
                2 === $i ? '=1+1' : 'note',
            );
        }
        file_put_contents(self::$folder.'/scored.csv', implode('', $lines));
    }

    public static function tearDownAfterClass(): void
    {
        array_map(unlink(...), glob(self::$folder.'/*') ?: []);
        rmdir(self::$folder);
    }

    /** @param array<string, mixed> $terms */
    private static function decide(array $terms, string ...$more): Process
    {
        file_put_contents(self::$folder.'/terms.json', json_encode($terms, \JSON_THROW_ON_ERROR));

        return Fixture::run([
            \PHP_BINARY,
            'bin/console',
            'dokimos:decide',
            self::$folder.'/scored.csv',
            '--chance=chance',
            '--id=id',
            '--terms='.self::$folder.'/terms.json',
            '--list='.self::$folder.'/list.csv',
            ...array_values($more),
        ], must: false);
    }

    public function testTheListIsInTheOrderOfItsReturnAndTiesGoByKey(): void
    {
        $process = self::decide(['cost' => 10, 'works' => 0.5, 'worth' => 100, 'most' => 4, 'chanceEdges' => [0.6]], '--json');
        self::assertTrue($process->isSuccessful(), $process->getErrorOutput());
        $told = json_decode($process->getOutput(), true, 16, \JSON_THROW_ON_ERROR);
        self::assertSame(4, $told['actions'] ?? null);
        self::assertEqualsWithDelta(0.5 * 100 * (0.9 + 0.8 + 0.7 + 0.5) - 40, $told['expected_return'] ?? null, 1e-9);
        $lines = array_map(str_getcsv(...), array_filter(explode("\r\n", (string) file_get_contents(self::$folder.'/list.csv'))));
        self::assertSame(['id', 'chance', 'value', 'return', 'tier', 'assigned', 'because'], $lines[0]);
        // Of the three that return the same, the first by key: B5, B6 and B7 stand in the file as B7, B6, B5.
        self::assertSame(['B9', 'B4', 'B2', 'B5'], array_column(\array_slice($lines, 1), 0));
        self::assertSame(['I', 'I', 'I', 'II'], array_column(\array_slice($lines, 1), 4));
    }

    public function testWhatIsNotKnownIsNotOnTheListAndAFormulaIsGuarded(): void
    {
        $process = self::decide(['cost' => 1, 'works' => 0.5, 'worthColumn' => 'worth'], '--json');
        self::assertSame(6, json_decode($process->getOutput(), true, 16, \JSON_THROW_ON_ERROR)['actions'] ?? null);
        $list = (string) file_get_contents(self::$folder.'/list.csv');
        self::assertStringNotContainsString('B3', $list, 'no chance');
        self::assertStringNotContainsString('B2', $list, 'no value');
        self::assertStringContainsString("'=1+1", $list);
    }

    public function testCapacityOfEachDay(): void
    {
        self::decide(['cost' => 1, 'works' => 0.5, 'worth' => 100, 'each' => 1, 'eachBy' => 'day']);
        $lines = array_filter(explode("\r\n", (string) file_get_contents(self::$folder.'/list.csv')));
        self::assertCount(3, $lines, 'one of each day, and the heads');
        self::assertStringContainsString('B9', $lines[1]);
    }

    /** @return iterable<string, array{array<string, mixed>, list<string>, string}> */
    public static function mistakes(): iterable
    {
        yield 'no cost' => [['works' => 0.5, 'worth' => 1], [], 'The terms have no number "cost".'];
        yield 'no worth' => [['works' => 0.5, 'cost' => 1], [], 'The terms have no number "worth".'];
        yield 'edges that fall' => [['works' => 0.5, 'cost' => 1, 'worth' => 9, 'chanceEdges' => [0.5, 0.2]], [], 'Edges of tiers rise'];
        yield 'a column that is not there' => [['works' => 0.5, 'cost' => 1, 'worthColumn' => 'gold'], [], 'gold'];
    }

    /**
     * @param array<string, mixed> $terms
     * @param list<string>         $more
     */
    #[DataProvider('mistakes')]
    public function testAMistakeIsOneLine(array $terms, array $more, string $says): void
    {
        $process = self::decide($terms, ...$more);
        self::assertSame(1, $process->getExitCode());
        self::assertStringContainsString($says, $process->getErrorOutput());
        self::assertCount(1, explode("\n", trim($process->getErrorOutput())));
    }
}
