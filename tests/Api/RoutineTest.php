<?php

declare(strict_types=1);

namespace App\Tests\Api;

use App\Decision\Routine;
use App\Decision\RoutinePlan;
use App\Decision\Routines;

/** A scoring that is done again: by one press, on a schedule, with a word when the new records differ. */
final class RoutineTest extends ApiTestCase
{
    private int $study;
    private int $trial;

    protected function setUp(): void
    {
        parent::setUp();
        $this->signIn();
        $study = $this->study('Nobody home');
        $this->study = (int) $study['id'];
        $this->trial = (int) $study['trials'][0]['id'];
        $source = implode('', iterator_to_array($this->service(\App\Storage\CellStore::class)->source((int) $study['tableId']), false));
        $this->lines = explode("\n", trim($source));
        $this->import(\array_slice($this->lines, 1, 200));
    }

    /** @var list<string> */
    private array $lines = [];

    /** @param list<string> $records */
    private function import(array $records, ?string $head = null): void
    {
        $bytes = ($head ?? $this->lines[0])."\n".implode("\n", $records)."\n";
        $this->call(
            'POST',
            "/api/studies/$this->study/tables",
            ['uploadId' => $this->upload($bytes, 'coming.csv'), 'name' => 'coming'],
            202,
        );
        $this->work();
    }

    /**
     * @param array<string, mixed> $more
     *
     * @return array<mixed>
     */
    private function make(array $more = [], int $expected = 201): array
    {
        $plan = $more + ['table' => 'coming', 'cutoff' => 0.1, 'keepAs' => 'coming scored', 'terms' => ['cost' => 3, 'most' => 20]];

        return $this->call(
            'POST',
            "/api/studies/$this->study/routines",
            ['trialId' => $this->trial, 'name' => 'Monday', 'plan' => $plan],
            $expected,
        );
    }

    public function testAWithdrawnModelIsNotUsedAnyMore(): void
    {
        $routine = $this->make();
        $approval = $this->call(
            'POST',
            "/api/trials/$this->trial/approvals",
            ['sentence' => 'Good.', 'limits' => 'None else.', 'again' => '2099-01-01'],
            201,
        );
        $this->call('POST', '/api/approvals/'.$approval['id'].'/withdraw', ['why' => 'Worn.']);
        $this->call('POST', '/api/routines/'.$routine['id'].'/run', [], 202);
        $this->work();
        $now = $this->call('GET', "/api/studies/$this->study/routines")[0];
        self::assertTrue($now['failed']);
        self::assertStringContainsString('was withdrawn; the routine waits', $now['says']);
    }

    public function testARoutineIsRunTwice(): void
    {
        $made = $this->make();
        self::assertSame(['by hand', '', null], [$made['when'], $made['says'], $made['nextAt']]);
        $this->call('POST', "/api/routines/{$made['id']}/run", null, 202);
        $this->work();
        $first = $this->call('GET', "/api/studies/$this->study/routines")[0];
        self::assertStringContainsString('200 of 200 records scored', $first['says']);
        self::assertStringContainsString('kept as coming scored, edition 1', $first['says']);
        self::assertSame([false, []], [$first['failed'], $first['warnings']]);
        self::assertLessThanOrEqual(20, $this->call('GET', '/api/decisions/'.$first['decisionId'])['acted']['actions']);
        // A new edition with fewer cells filled: that is said.
        $slot = (int) array_search('slot', str_getcsv($this->lines[0]), true);
        $this->import(array_map(static function (string $line) use ($slot): string {
            $cells = str_getcsv($line);
            $cells[$slot] = 0 === crc32($line) % 3 ? '' : $cells[$slot];

            return implode(',', array_map(static fn (?string $c): string => '"'.str_replace('"', '""', (string) $c).'"', $cells));
        }, \array_slice($this->lines, 201, 150)));
        $this->call('POST', "/api/routines/{$made['id']}/run", null, 202);
        $this->work();
        $second = $this->call('GET', "/api/studies/$this->study/routines")[0];
        self::assertStringContainsString('of 150 records scored', $second['says']);
        self::assertStringContainsString('edition 2', $second['says']);
        self::assertStringContainsString('slot', implode(' ', $second['warnings']));
        self::assertNotSame($first['scoringId'], $second['scoringId']);
        $log = $this->call('GET', "/api/studies/$this->study/logbook")['entries'];
        self::assertStringContainsString('Routine "Monday"', implode(' ', array_column($log, 'sentence')));
        $this->call('DELETE', "/api/routines/{$made['id']}", null, 204);
        self::assertSame([], $this->call('GET', "/api/studies/$this->study/routines"));
        self::assertSame('done', $this->call('GET', '/api/scorings/'.$second['scoringId'])['state'], 'what it made stays');
    }

    public function testColumnsThatMatchNoMoreStopItWithAWord(): void
    {
        $made = $this->make();
        $names = str_getcsv($this->lines[0]);
        $head = implode(',', array_map(static fn (?string $n): string => 'days_ahead' === $n ? 'lead' : (string) $n, $names));
        $this->import(\array_slice($this->lines, 1, 50), $head);
        $this->call('POST', "/api/routines/{$made['id']}/run", null, 202);
        $this->work();
        $view = $this->call('GET', "/api/studies/$this->study/routines")[0];
        self::assertTrue($view['failed']);
        self::assertStringContainsString('has no days_ahead', $view['says']);
        $this->make(['table' => 'no such'], 422);
        $this->make(['table' => 'coming'], 409);
    }

    public function testWhatIsDueIsBegunOnce(): void
    {
        $made = $this->make(['when' => 'every day', 'hour' => 4]);
        self::assertNotNull($made['nextAt']);
        $routines = $this->service(Routines::class);
        self::assertSame(0, $routines->startDue(new \DateTimeImmutable('now')));
        $later = new \DateTimeImmutable($made['nextAt']);
        self::assertSame(1, $routines->startDue($later->modify('+1 minute')));
        $this->entities()->clear();
        $this->work();
        self::assertStringContainsString('records scored', $this->call('GET', "/api/studies/$this->study/routines")[0]['says']);
        $kept = $this->entities()->find(Routine::class, $made['id']);
        self::assertNotNull($kept?->nextAt());
        $plan = new RoutinePlan('t', when: RoutinePlan::WEEKLY, hour: 4);
        self::assertSame('2026-03-09 04:00', $plan->next(new \DateTimeImmutable('2026-03-02 04:00'))?->format('Y-m-d H:i'));
        self::assertSame('2026-03-02 04:00', $plan->next(new \DateTimeImmutable('2026-03-02 03:59'))?->format('Y-m-d H:i'));
    }

    public function testWhatARoutineCannotDoIsSaid(): void
    {
        foreach ([
            ['cutoff' => 0],
            ['when' => 'sometimes'],
            ['hour' => 24],
            ['terms' => ['cost' => -1]],
            ['terms' => null, 'export' => ['connectionId' => 1, 'table' => 't']],
            ['export' => ['table' => 't']],
        ] as $wrong) {
            $this->make($wrong, 422);
        }
    }
}
