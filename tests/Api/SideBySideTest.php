<?php

declare(strict_types=1);

namespace App\Tests\Api;

use PHPUnit\Framework\Attributes\DataProvider;

/** Two to four trials on the same rows: figures with paired differences, curves, settings, and the records they part on. */
final class SideBySideTest extends ApiTestCase
{
    protected function setUp(): void
    {
        parent::setUp();
        $this->signIn();
    }

    /**
     * @param list<string> $learners
     *
     * @return list<int>
     */
    private function tried(int $study, array $learners): array
    {
        $variant = $this->call('GET', "/api/studies/$study/preparation")['variants'][0]['id'];
        $jobs = $this->call('POST', "/api/studies/$study/trials/several", ['variantId' => $variant, 'learners' => $learners], 202);
        $this->work();

        return array_column($jobs, 'subject');
    }

    /** @return iterable<string, array{0: int, 1: list<string>, 2: list<string>, 3: string, 4?: string}> */
    public static function studies(): iterable
    {
        yield 'an event' => [1, ['logistic', 'tree', 'rules'], ['caught', 'right'], 'auc'];
        yield 'several classes' => [3, ['tree', 'multinomial'], [], 'logLoss', 'job_type'];
        yield 'a number' => [3, ['linear', 'tree', 'boosting'], ['within'], 'rmse'];
    }

    /**
     * @param list<string> $learners
     * @param list<string> $calls
     */
    #[DataProvider('studies')]
    public function testEveryTaskStandsSideBySide(int $study, array $learners, array $calls, string $figure, ?string $target = null): void
    {
        if (null !== $target) {
            $of = $this->call('GET', "/api/studies/$study");
            $this->call(
                'PUT',
                "/api/studies/$study/target",
                ['tableId' => $of['tableId'], 'column' => $target, 'task' => 'several classes', 'folds' => 2, 'repeats' => 1],
                200,
                ['If-Match' => (string) $of['version']],
            );
        }
        $ids = $this->tried($study, $learners);
        $path = "/api/studies/$study/trials/beside?trials=".implode(',', $ids);
        $beside = $this->call('GET', $path);
        self::assertSame($ids, array_column($beside['trials'], 'id'));
        $keys = array_map(static fn (array $f): string => $f['figure']['key'], $beside['figures']);
        self::assertContains($figure, $keys);
        self::assertSame([], array_diff($calls, $keys));
        foreach ($beside['figures'] as $line) {
            self::assertNull($line['trials'][0]['difference'], 'the first is what the others are held against');
            foreach (\array_slice($line['trials'], 1) as $other) {
                self::assertSame(
                    $other['noise'],
                    null === $other['low'] ? $other['noise'] : $other['low'] <= 0 && $other['high'] >= 0,
                    $line['figure']['name'],
                );
            }
        }
        // What the Standings say of the pair by the figure that ranks is said here too.
        $standings = $this->call('GET', "/api/studies/$study/trials");
        $leader = $standings['trials'][0]['id'];
        $line = $beside['figures'][(int) array_search($standings['measure']['key'], $keys, true)];
        if ($leader === $ids[0]) {
            $told = array_column($standings['distances'], null, 'trialId')[$ids[1]];
            self::assertSame(
                [$told['difference'], $told['low'], $told['noise']],
                [$line['trials'][1]['difference'], $line['trials'][1]['low'], $line['trials'][1]['noise']],
            );
        }
        self::assertCount(\count($beside['xs']), $beside['reached'][0]);
        self::assertGreaterThan(0.2, end($beside['reached'][0]));
        self::assertCount(\count($ids) - 1, $beside['less']);
        self::assertSame($beside['rows'], array_sum(array_column($beside['parts'], 'rows')));
        self::assertNotSame([], array_filter($beside['settings'], static fn (array $s): bool => !$s['same']));
        // The records behind every part are as many as it says, and those that all agree on are not among those they part on.
        $parted = 0;
        foreach ($beside['parts'] as $part) {
            $called = implode('', array_map(static fn (bool $c): string => $c ? '1' : '0', $part['called']));
            self::assertSame(
                $part['rows'],
                $this->call('GET', str_replace('beside?', 'beside/records?', $path)."&called=$called&limit=1")['total'],
            );
            $parted += str_contains($called, '0') && str_contains($called, '1') ? $part['rows'] : 0;
        }
        $records = $this->call('GET', str_replace('beside?', 'beside/records?', $path).'&limit=5');
        self::assertSame($parted, $records['total']);
        foreach ($records['records'] as $record) {
            self::assertCount(\count($ids), $record['said']);
            self::assertCount(\count($records['names']), $record['cells']);
        }
    }

    public function testAsManyCallsAsAreAskedFor(): void
    {
        $ids = $this->tried(1, ['logistic', 'tree']);
        $beside = $this->call('GET', '/api/studies/1/trials/beside?at=100&trials='.implode(',', $ids));
        self::assertSame(100, $beside['at']);
        $called = static fn (int $k): int => (int) array_sum(array_map(
            static fn (array $p): int => $p['called'][$k] ? $p['rows'] : 0,
            $beside['parts'],
        ));
        self::assertSame([100, 100], [$called(0), $called(1)]);
        $by = array_column(
            array_map(
                static fn (array $f): array => ['key' => $f['figure']['key'], 'value' => $f['trials'][1]['value']],
                $beside['figures'],
            ),
            'value',
            'key',
        );
        $hits = array_sum(array_map(static fn (array $p): int => $p['called'][1] ? (int) $p['hits'] : 0, $beside['parts']));
        self::assertEqualsWithDelta($hits, $by['right'], 1e-9, 'of 100 called');
        self::assertEqualsWithDelta(100 * $hits / $beside['of'], $by['caught'], 1e-9);
    }

    public function testWhatCannotStandSideBySideIsSaid(): void
    {
        [$one, $two] = $this->tried(1, ['rules', 'tree']);
        foreach ([(string) $one, "$one,$one", "$one,x", '', "$one,$two,1,2,3"] as $named) {
            $this->call('GET', '/api/studies/1/trials/beside?trials='.$named, null, 422);
        }
        $this->call('GET', "/api/studies/3/trials/beside?trials=$one,$two", null, 422);
        $this->call('GET', "/api/studies/1/trials/beside/records?trials=$one,$two&called=2", null, 422);
        $this->call('GET', "/api/studies/1/trials/beside/records?trials=$one,$two&called=111", null, 422);
        $this->call('GET', "/api/studies/1/trials/beside?trials=$one,999999", null, 404);
    }
}
