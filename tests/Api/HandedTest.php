<?php

declare(strict_types=1);

namespace App\Tests\Api;

/** What stands beside a trial, the Standings as a file, the examination beside what was expected, and the model that is handed on. */
final class HandedTest extends ApiTestCase
{
    private int $trial;

    protected function setUp(): void
    {
        parent::setUp();
        $this->signIn();
        $variant = $this->call('GET', '/api/studies/1/preparation')['variants'][0]['id'];
        $trial = $this->call(
            'POST',
            '/api/studies/1/trials',
            ['variantId' => $variant, 'learner' => 'tree', 'calibration' => 'sigmoid'],
            202,
        )['subject'];
        $this->work();
        \assert(\is_int($trial));
        $this->trial = $trial;
    }

    public function testANoteAndHidingStayAndTheFileLeavesNothingOut(): void
    {
        $this->call('PUT', "/api/trials/$this->trial/remark", ['note' => " =cmd|' /C calc'!A0 ", 'hidden' => true]);
        $lines = array_column($this->call('GET', '/api/studies/1/trials')['trials'], null, 'id');
        self::assertSame(["=cmd|' /C calc'!A0", true], [$lines[$this->trial]['note'], $lines[$this->trial]['hidden']]);
        $this->call('PUT', "/api/trials/$this->trial/remark", ['note' => str_repeat('x', 401)], 422);
        $this->client->request('GET', '/api/studies/1/standings/file');
        $text = (string) $this->client->getResponse()->getContent();
        $rows = array_map(static fn (string $l): array => str_getcsv($l, escape: ''), explode("\r\n", trim($text)));
        $heads = array_map(strval(...), array_shift($rows) ?? []);
        self::assertCount(\count($lines), $rows);
        $own = array_values(array_filter(
            array_map(static fn (array $r): array => array_combine($heads, $r), $rows),
            fn (array $r): bool => (string) $lines[$this->trial]['number'] === $r['trial'],
        ))[0];
        self::assertSame(
            ["'=cmd|' /C calc'!A0", 'yes', 'no', 'sigmoid'],
            [$own['note'], $own['hidden'], $own['seal_opened'], $own['chances']],
        );
        self::assertEqualsWithDelta($lines[$this->trial]['value'], (float) $own['auc'], 1e-9);
        foreach (['auc', 'logLoss', 'brier', 'ks', 'averagePrecision'] as $figure) {
            self::assertTrue(
                (float) $own[$figure.'_low'] <= (float) $own[$figure] && (float) $own[$figure] <= (float) $own[$figure.'_high'],
                $figure,
            );
        }
    }

    public function testTheExaminationStandsBesideWhatWasExpected(): void
    {
        $lines = $this->judged($this->trial, 'POST', 'seal')['sections'][0]['figures'];
        foreach ($lines as $line) {
            if (null === $line['sealed']['low'] || null === $line['interval']['low']) {
                self::assertNull($line['agrees']);
                continue;
            }
            $gap = $line['sealed']['value'] - $line['interval']['value'];
            $reach = $gap > 0
                ? hypot($line['sealed']['value'] - $line['sealed']['low'], $line['interval']['high'] - $line['interval']['value'])
                : hypot($line['sealed']['high'] - $line['sealed']['value'], $line['interval']['value'] - $line['interval']['low']);
            self::assertSame(abs($gap) <= $reach, $line['agrees'], $line['figure']['name']);
        }
        self::assertNotNull($lines[0]['agrees']);
    }

    public function testOnlyAnExaminedModelIsHandedOnAndItScores(): void
    {
        $this->call('POST', "/api/trials/$this->trial/handed", null, 409);
        $before = $this->judged($this->trial, 'POST', 'seal');
        $table = $this->call('GET', '/api/studies/1')['tableId'];
        $score = function () use ($table): int {
            $job = $this->call('POST', '/api/studies/1/scorings', ['trialId' => $this->trial, 'tableId' => $table, 'cutoff' => 0.2], 202);
            $this->work();
            \assert(\is_int($job['subject']));

            return $job['subject'];
        };
        $examined = $score();
        $this->call('POST', "/api/trials/$this->trial/handed", null, 202);
        $this->work();
        $after = $this->judged($this->trial);
        $study = $this->call('GET', '/api/studies/1');
        self::assertSame($study['openRows'] + $study['sealedRows'], $after['trial']['handedRows']);
        self::assertEquals($before['figures'], $after['figures'], 'the figures stay those of the examined model');
        $handed = $score();
        self::assertSame(
            [false, true],
            [$this->call('GET', "/api/scorings/$examined")['handed'], $this->call('GET', "/api/scorings/$handed")['handed']],
        );
        self::assertNotEquals(
            $this->call('GET', "/api/scorings/$examined/rows?limit=200"),
            $this->call('GET', "/api/scorings/$handed/rows?limit=200"),
            'it learned from more records',
        );
        self::assertStringContainsString('fitted once more on all', (string) json_encode($this->call('GET', '/api/studies/1/logbook')));
        // The reasons of a record that the examined model scored are still its own.
        $reasons = fn (int $scoring): mixed => $this->call('GET', "/api/scorings/$scoring/reasons/1");
        self::assertNotEquals($reasons($examined), $reasons($handed));
    }
}
