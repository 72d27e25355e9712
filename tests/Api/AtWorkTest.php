<?php

declare(strict_types=1);

namespace App\Tests\Api;

use App\Service\Inputs;
use App\TakeAway\CompanyDatabase;
use PHPUnit\Framework\Attributes\DataProvider;

/** A trial is approved on evidence, opened as a service, switched, and withdrawn. */
final class AtWorkTest extends ApiTestCase
{
    private const GOOD = [
        'sentence' => 'Better than calling everybody, on rows it had not seen.',
        'limits' => 'Not for commercial boilers.',
        'again' => '2099-04-30',
        'rule' => 'refuse',
        'cutoff' => 0.15,
    ];

    private int $trial = 0;
    private int $study = 0;

    protected function setUp(): void
    {
        parent::setUp();
        $this->signIn();
        $study = $this->study('Nobody home');
        $this->study = (int) $study['id'];
        $this->trial = (int) $study['trials'][0]['id'];
    }

    /** @param array<string, mixed> $settings */
    private function tried(string $learner, array $settings = [], ?int $rows = null): int
    {
        $variant = $this->call('GET', "/api/studies/$this->study/preparation")['variants'][0]['id'];
        $trial = $this->call(
            'POST',
            "/api/studies/$this->study/trials",
            ['variantId' => $variant, 'learner' => $learner, 'settings' => $settings, 'rows' => $rows],
            202,
        )['subject'];
        $this->work();
        \assert(\is_int($trial));

        return $trial;
    }

    public function testAnApprovalKeepsItsEvidenceWhateverHappensLater(): void
    {
        $approval = $this->call('POST', "/api/trials/$this->trial/approvals", self::GOOD + ['groups' => ['tenure']], 201);
        self::assertSame(
            [1, 'Mara Kell', '2099-04-30', false, null],
            [$approval['number'], $approval['by'], $approval['again'], $approval['due'], $approval['withdrawn']],
        );
        $evidence = $approval['evidence'];
        self::assertSame('outcome', $evidence['question']['target']);
        self::assertSame('logistic', $evidence['trial']['learner']);
        self::assertSame(64, \strlen($evidence['fingerprints']['model']));
        self::assertSame(64, \strlen($evidence['fingerprints']['code']));
        self::assertSame($approval['stamp'], $evidence['fingerprints']['model']);
        self::assertContains($evidence['trial']['number'], array_column($evidence['considered'], 'number'));
        self::assertSame('tenure', $evidence['groups'][0]['by']);
        self::assertNotSame([], $evidence['groups'][0]['groups']);
        $tenure = array_values(array_filter($evidence['atRisk'], static fn (array $g): bool => 'tenure' === $g['by']));
        self::assertCount(3, $tenure);
        foreach ($evidence['atRisk'] as $group) {
            self::assertLessThanOrEqual($group['caught']['value'] ?? 0.0, $group['caught']['low'] ?? 0.0);
        }
        // The study goes on: what was approved stays as it was.
        $this->call('PUT', "/api/trials/$this->trial/remark", ['note' => 'changed later', 'hidden' => true]);
        $this->judged($this->trial, 'POST', 'seal');
        $again = $this->call('GET', "/api/studies/$this->study/approvals")[0];
        self::assertSame($evidence, $again['evidence']);
        self::assertNull($again['evidence']['seal']['opening']);
        $withdrawn = $this->call('POST', "/api/approvals/{$approval['id']}/withdraw", ['why' => 'The seal says less.']);
        self::assertSame(['Mara Kell', 'The seal says less.'], [$withdrawn['withdrawn']['by'], $withdrawn['withdrawn']['why']]);
        self::assertSame($evidence, $withdrawn['evidence']);
        $this->call('POST', "/api/approvals/{$approval['id']}/withdraw", ['why' => 'Twice.'], 409);
    }

    /** @return iterable<string, array{array<string, mixed>, int, string}> */
    public static function poor(): iterable
    {
        yield 'no sentence' => [['sentence' => ' '], 422, 'sentence'];
        yield 'no limits' => [['limits' => ''], 422, 'limits'];
        yield 'a day that is past' => [['again' => '2020-01-01'], 422, 'again'];
        yield 'a day that is none' => [['again' => 'soon'], 422, 'again'];
        yield 'a rule that is none' => [['rule' => 'guess'], 422, 'rule'];
        yield 'a cut-off beyond 1' => [['cutoff' => 2], 422, 'cutoff'];
    }

    /** @param array<string, mixed> $change */
    #[DataProvider('poor')]
    public function testAnApprovalSaysWhatItIs(array $change, int $status, string $field): void
    {
        $said = $this->call('POST', "/api/trials/$this->trial/approvals", $change + self::GOOD, $status);
        self::assertSame($field, $said['field'] ?? $said['violations'][0]['field'] ?? null);
        self::assertSame([], $this->call('GET', "/api/studies/$this->study/approvals"));
    }

    public function testAServiceAnswersAsItsVersionDoes(): void
    {
        $first = $this->call('POST', "/api/trials/$this->trial/approvals", self::GOOD, 201);
        $this->call('POST', "/api/studies/$this->study/services", ['name' => 'Return Visits', 'approvalId' => $first['id']], 422);
        $asked = ['name' => 'return-visits', 'approvalId' => $first['id']];
        $service = $this->call('POST', "/api/studies/$this->study/services", $asked, 201);
        self::assertSame(
            [1, '/serve/return-visits', 'It answers; nobody has called yet.'],
            [$service['version'], $service['path'], $service['says']],
        );
        $this->call('POST', "/api/studies/$this->study/services", ['name' => 'return-visits', 'approvalId' => $first['id']], 409);
        $record = $service['example'];
        self::assertSame(array_column($service['fields'], 'name'), array_keys($record));
        foreach ($service['examples'] as $example) {
            self::assertStringContainsString('/serve/return-visits', $example['code']);
        }
        self::assertSame(['curl', 'PHP', 'Python', 'JavaScript'], array_column($service['examples'], 'language'));

        $told = $this->call('POST', "/api/services/{$service['id']}/try", ['record' => $record, 'versions' => [1]])[0];
        self::assertSame(1, $told['version']);
        self::assertEqualsWithDelta($told['answer']['chance'] >= 0.15, $told['answer']['call'], 0);
        self::assertLessThanOrEqual($told['answer']['chance_high'], $told['answer']['chance_low']);
        self::assertCount(5, $told['answer']['because']);
        // The service gives what the application does for the same record.
        $numbers = array_values(
            array_filter(range(1, 12), fn (int $n): bool => !$this->call('GET', "/api/trials/$this->trial/reasons/$n")['sealed']),
        );
        $same = array_values(array_filter($numbers, function (int $n) use ($told): bool {
            $own = $this->call('GET', "/api/trials/$this->trial/reasons/$n");

            return abs(($own['answer']['chance'] ?? $own['account']['answer']) - $told['answer']['chance']) < 1e-9;
        }));
        self::assertNotSame([], $same, 'the example is one of the first open records');

        $seventh = $this->call('GET', "/api/services/{$service['id']}/records/7");
        self::assertSame(array_keys($record), array_keys($seventh));
        self::assertNotSame($record, $seventh);
        $this->call('GET', "/api/services/{$service['id']}/records/999999", null, 404);
        // Missing and unknown columns are refused, in a sentence.
        $name = array_key_first($record);
        $less = array_diff_key($record, [$name => null]);
        self::assertStringContainsString(
            "$name was not given",
            $this->call('POST', "/api/services/{$service['id']}/try", ['record' => $less, 'versions' => [1]])[0]['answer']['refused'],
        );
        self::assertStringContainsString(
            'heat_pump is not known',
            $this->call(
                'POST',
                "/api/services/{$service['id']}/try",
                ['record' => $record + ['heat_pump' => 1], 'versions' => [1]],
            )[0]['answer']['refused'],
        );

        // A second version rests until it is switched to; then the first does.
        $other = $this->tried('tree', ['depth' => 3]);
        $second = $this->call('POST', "/api/trials/$other/approvals", ['rule' => 'answer with low confidence'] + self::GOOD, 201);
        $now = $this->call('PATCH', "/api/services/{$service['id']}", ['approvalId' => $second['id']]);
        self::assertSame([2, ['answers', 'rests']], [$now['version'], array_column($now['versions'], 'state')]);
        [$one, $two] = $this->call(
            'POST',
            "/api/services/{$service['id']}/try",
            ['record' => $record + ['heat_pump' => 1], 'versions' => [1, 2]],
        );
        self::assertArrayHasKey('refused', $one['answer']);
        self::assertSame('low', $two['answer']['confidence']);
        self::assertSame(['heat_pump is not known.'], $two['answer']['remarks']);
        $back = $this->call('PATCH', "/api/services/{$service['id']}", ['approvalId' => $first['id'], 'paused' => true]);
        self::assertSame([1, true, 'It is paused: callers are told so.'], [$back['version'], $back['paused'], $back['says']]);
        $this->call('POST', "/api/approvals/{$second['id']}/withdraw", ['why' => 'Worn.']);
        $this->call('PATCH', "/api/services/{$service['id']}", ['approvalId' => $second['id']], 409);

        $document = $this->call('GET', "/api/services/{$service['id']}/openapi");
        self::assertSame(['3.1.0', '1'], [$document['openapi'], $document['info']['version']]);
        self::assertSame(array_keys($record), array_keys($document['components']['schemas']['Record']['properties']));
        self::assertStringContainsString('Not for commercial boilers.', $document['info']['description']);
    }

    public function testWhatCallersSendIsKeptByChoiceOnly(): void
    {
        $approval = $this->call('POST', "/api/trials/$this->trial/approvals", self::GOOD, 201);
        $asked = ['name' => 'kept-or-not', 'approvalId' => $approval['id']];
        $service = $this->call('POST', "/api/studies/$this->study/services", $asked, 201);
        self::assertSame(0, $service['keepDays']);
        $this->call('PATCH', "/api/services/{$service['id']}", ['keepDays' => 400], 422);
        self::assertSame(7, $this->call('PATCH', "/api/services/{$service['id']}", ['keepDays' => 7])['keepDays']);
        $inputs = $this->service(Inputs::class);
        $inputs->keep($service['id'], 7, 1, 3, [['size' => 4]], [['chance' => 0.5]]);
        $this->client->request('GET', "/api/services/{$service['id']}/kept");
        $line = (array) json_decode($this->client->getInternalResponse()->getContent(), true);
        self::assertSame([[['size' => 4]], [['chance' => 0.5]]], [$line['records'] ?? null, $line['answers'] ?? null]);
        $logbook = (string) json_encode($this->call('GET', "/api/studies/$this->study/logbook"));
        self::assertStringContainsString('Took along what callers', $logbook);
        $this->call('PATCH', "/api/services/{$service['id']}", ['keepDays' => 0]);
        self::assertSame('', implode('', iterator_to_array($inputs->lines($service['id']), false)));
    }

    public function testATokenIsShownOnce(): void
    {
        $approval = $this->call('POST', "/api/trials/$this->trial/approvals", self::GOOD, 201);
        $id = $this->call('POST', "/api/studies/$this->study/services", ['name' => 'calls', 'approvalId' => $approval['id']], 201)['id'];
        $this->call('POST', "/api/services/$id/tokens", ['caller' => ''], 422);
        $made = $this->call(
            'POST',
            "/api/services/$id/tokens",
            ['caller' => 'Online booking', 'perDay' => 600, 'expires' => '2099-01-01'],
            201,
        );
        self::assertStringStartsWith('dk_', $made['shown']);
        self::assertSame(substr($made['shown'], -4), $made['token']['tail']);
        $all = json_encode($this->call('GET', "/api/studies/$this->study/services"));
        self::assertStringNotContainsString($made['shown'], (string) $all);
        $kept = $this->entities()->getConnection()->fetchAllAssociative('SELECT * FROM service_token')[0];
        self::assertStringNotContainsString($made['shown'], implode(' ', array_map(strval(...), $kept)));
        self::assertSame(hash('sha256', $made['shown']), $kept['hash']);
        $view = $this->call('DELETE', "/api/services/$id/tokens/{$made['token']['id']}");
        self::assertTrue($view['tokens'][0]['revoked']);
    }

    public function testAModelIsTakenAwayWithItsProofAndSaysDraft(): void
    {
        $view = $this->call('GET', "/api/trials/$this->trial/take-away");
        self::assertSame([[], true, []], [$view['cannot'], $view['draft'], $view['taken']]);
        foreach (array_column($view['forms'], 'form') as $form) {
            $taken = $this->call('POST', "/api/trials/$this->trial/take-away", ['form' => $form], 201);
            self::assertTrue($taken['draft']);
            self::assertStringContainsString('-draft.', $taken['fileName']);
            self::assertStringContainsString('its answers are the same', $taken['says']);
            self::assertGreaterThan(100, $taken['made']['real']);
            $this->client->request('GET', "/api/taken/{$taken['id']}/file");
            self::assertSame($taken['size'], \strlen((string) $this->client->getResponse()->getContent()));
        }
        $this->call('POST', "/api/trials/$this->trial/approvals", self::GOOD, 201);
        self::assertFalse($this->call('POST', "/api/trials/$this->trial/take-away", ['form' => 'json'], 201)['draft']);
        self::assertCount(5, $this->call('GET', "/api/trials/$this->trial/take-away")['taken']);
        $this->call('POST', "/api/trials/$this->trial/take-away", ['form' => 'paper'], 422);
        $card = $this->tried('tree');
        self::assertContains('card', array_column($this->call('GET', "/api/trials/$card/take-away")['forms'], 'form'));
        $taken = $this->call('POST', "/api/trials/$card/take-away", ['form' => 'card'], 201);
        self::assertStringContainsString('a reader that follows its text', $taken['says']);
        $without = $this->tried('neighbors', ['find' => false, 'k' => 5], 100);
        self::assertStringContainsString('no formula holds', $this->call('GET', "/api/trials/$without/take-away")['cannot'][0]);
        $this->call('POST', "/api/trials/$without/take-away", ['form' => 'onnx'], 409);
        $this->call('POST', "/api/trials/$without/inside", ['connectionId' => 0, 'from' => 'bookings', 'into' => 'x'], 409);
    }

    public function testATableIsScoredInsideTheCompanyDatabase(): void
    {
        self::assertContains('bookings', $this->call('GET', "/api/trials/$this->trial/take-away")['company']);
        $asked = ['connectionId' => 0, 'from' => 'bookings', 'into' => 'scored_'.bin2hex(random_bytes(4)), 'keys' => ['visit_id']];
        $this->call('POST', "/api/trials/$this->trial/inside", ['from' => 'SELECT * FROM bookings'] + $asked, 422);
        $this->call('POST', "/api/trials/$this->trial/inside", $asked, 202);
        self::assertSame('running', $this->call('GET', "/api/trials/$this->trial/take-away")['inside'][0]['state']);
        $this->work();
        $this->call('POST', "/api/trials/$this->trial/inside", $asked, 202);
        $this->work();
        [$again, $done] = $this->call('GET', "/api/trials/$this->trial/take-away")['inside'];
        self::assertSame(['done', true, 'the company database'], [$done['state'], $done['draft'], $done['place']]);
        self::assertStringContainsString('its answers are the same', $done['says']);
        self::assertSame('failed', $again['state']);
        self::assertStringContainsString('already exists', $again['says']);
        self::assertStringContainsString('Nothing was written', $again['says']);
        $there = $this->service(CompanyDatabase::class)->open()->query(
            \sprintf('SELECT COUNT(*), COUNT(chance), COUNT(visit_id) FROM %s', $asked['into']),
        );
        self::assertInstanceOf(\PDOStatement::class, $there);
        self::assertSame([$done['rows'], $done['rows'], $done['rows']], array_map(intval(...), (array) $there->fetch(\PDO::FETCH_NUM)));
    }
}
