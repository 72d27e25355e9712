<?php

declare(strict_types=1);

namespace App\Tests\Console;

use App\Tests\Fixture;
use PHPUnit\Framework\TestCase;

/** A guided search from the command line: the same bytes each time, and what it found named. */
final class SearchCommandTest extends TestCase
{
    private string $dir;

    protected function setUp(): void
    {
        $this->dir = sys_get_temp_dir().'/dokimos-search-'.bin2hex(random_bytes(4));
        mkdir($this->dir);
        $lines = ['slot,channel,days,late'];
        mt_srand(4);
        for ($i = 0; $i < 700; ++$i) {
            [$slot, $channel] = [mt_rand(0, 3), mt_rand(0, 2)];
            $event = mt_rand() / mt_getrandmax() < (($slot > 1) === (1 === $channel) ? 0.75 : 0.25);
            $lines[] = implode(
                ',',
                [
                    ['early', 'noon', 'late', 'night'][$slot],
                    ['web', 'desk', 'phone'][$channel],
                    (string) mt_rand(0, 30),
                    $event ? 'yes' : 'no',
                ],
            );
        }
        file_put_contents($this->dir.'/visits.csv', implode("\n", $lines)."\n");
    }

    protected function tearDown(): void
    {
        Fixture::run(['rm', '-rf', $this->dir]);
    }

    public function testTheSameSeedAndCountsGiveTheSameBytes(): void
    {
        $search = [
            'dokimos:search',
            $this->dir.'/visits.csv',
            '--target=late',
            '--tries=6',
            '--ideas=2',
            '--without-learners=forest,boosting,additive,neural-network,neighbors',
            '--json',
        ];
        $first = Fixture::console([...$search, '--out='.$this->dir.'/model.json'])->getOutput();
        self::assertSame($first, Fixture::console($search)->getOutput());
        /** @var array{judging_rows: int, ideas: list<array{from: string, kept: bool}>, rungs: list<list<array<string, mixed>>>, finals: list<array{learner: string, value: float, low: float}>} $told */
        $told = json_decode($first, true);
        self::assertSame(['slot and channel together', true], [$told['ideas'][0]['from'], $told['ideas'][0]['kept']]);
        self::assertCount(6, $told['rungs'][0]);
        self::assertEqualsCanonicalizing(
            ['logistic', 'tree', 'rules', 'naive-bayes', 'bayes-network'],
            array_column($told['finals'], 'learner'),
        );
        self::assertGreaterThan(0.6, $told['finals'][0]['low']);
        // The best is a model like any other.
        $scored = Fixture::console([
            'dokimos:score',
            $this->dir.'/model.json',
            $this->dir.'/visits.csv',
            '--out='.$this->dir.'/scored.csv',
            '--json',
        ])->getOutput();
        self::assertStringContainsString('700', $scored);
        self::assertNotSame($first, Fixture::console([...$search, '--seed=7'])->getOutput());
    }

    public function testWhatIsWrongIsSaid(): void
    {
        $process = Fixture::run([\PHP_BINARY, 'bin/console', 'dokimos:search', $this->dir.'/visits.csv', '--target=never'], must: false);
        self::assertSame(1, $process->getExitCode());
        self::assertStringContainsString('There is no column "never"', $process->getOutput().$process->getErrorOutput());
    }
}
