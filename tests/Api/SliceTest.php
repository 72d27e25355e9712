<?php

declare(strict_types=1);

namespace App\Tests\Api;

use App\Demo\VisitGenerator;

/** The whole way over HTTP: file, target, preparation, trial, judgment, seal, reasons, scores, list. */
final class SliceTest extends ApiTestCase
{
    public function testFromAFileToAScoredList(): void
    {
        $this->signIn();
        $csv = implode('', iterator_to_array(VisitGenerator::forPart(5, 'visits')->visits(1200), false));
        $study = $this->call(
            'POST',
            '/api/studies',
            ['name' => 'Own', 'question' => 'Which ones?', 'uploadId' => $this->upload($csv, 'own.csv')],
            201,
        );
        $id = $study['id'];
        self::assertSame(3, $this->work(), 'the columns, the source, the joining');
        $study = $this->call('GET', "/api/studies/$id");
        self::assertSame([1200, 25, 'own'], [$study['rows'], $study['columns'], $study['tableName']]);
        self::assertSame(['the target to choose'], $study['waits']);
        $register = $this->call('GET', '/api/tables/'.$study['tableId']);
        $columns = array_column($register['columns'], null, 'name');
        self::assertSame(['identifier', 'key'], [$columns['visit_id']['kind'], $columns['visit_id']['use']]);
        self::assertSame('date', $columns['visit_date']['kind']);
        foreach (['parts_ordered_after', 'minutes_on_site', 'outcome'] as $late) {
            $this->call(
                'PATCH',
                '/api/columns/'.$columns[$late]['id'],
                ['known' => false],
                200,
                ['If-Match' => (string) $columns[$late]['version']],
            );
        }

        $this->call('POST', "/api/studies/$id/trials", ['variantId' => 1], 404);
        $this->call('PUT', "/api/studies/$id/target", ['column' => 'return_visit', 'event' => 'perhaps'], 422, ['If-Match' => '2']);
        $study = $this->call('GET', "/api/studies/$id");
        $study = $this->call(
            'PUT',
            "/api/studies/$id/target",
            ['column' => 'return_visit', 'event' => 'yes'],
            200,
            ['If-Match' => (string) $study['version']],
        );
        self::assertSame([240, 960], [$study['sealedRows'], $study['openRows']]);
        $detail = $this->call('GET', '/api/columns/'.$columns['days_ahead']['id']);
        self::assertSame(960, $detail['rowsLookedAt'], 'the sealed rows\' outcomes are not looked at');

        $variant = $this->call('GET', "/api/studies/$id/preparation")['variants'][0];
        $steps = [
            ['step' => 'set_aside', 'columns' => ['currency', 'access_code', 'depot'], 'note' => 'of no use'],
            ['step' => 'fill_missing', 'choose' => ['kinds' => [], 'missing' => true], 'method' => 'median', 'mark' => false],
        ];
        $preview = $this->call('POST', '/api/variants/'.$variant['id'].'/preview', ['steps' => $steps]);
        self::assertSame(0, $preview['missingAfter']);
        self::assertSame([], $this->call('GET', "/api/studies/$id/preparation")['variants'][0]['steps'], 'a preview stores nothing');
        $this->call(
            'PUT',
            '/api/variants/'.$variant['id'],
            ['steps' => [['step' => 'set_aside', 'columns' => []]]],
            422,
            ['If-Match' => (string) $variant['version']],
        );
        $variant = $this->call(
            'PUT',
            '/api/variants/'.$variant['id'],
            ['steps' => $steps],
            200,
            ['If-Match' => (string) $variant['version']],
        );
        self::assertSame('of no use', $variant['steps'][0]['note']);

        $job = $this->call('POST', "/api/studies/$id/trials", ['variantId' => $variant['id'], 'learner' => 'logistic'], 202);
        self::assertSame('waiting', $job['state']);
        self::assertSame(12, $this->work(), 'ten folds, the whole, the joining');
        self::assertSame('done', $this->call('GET', '/api/jobs/'.$job['id'])['state']);
        $trial = $this->call('GET', "/api/studies/$id/trials")['trials'][0];
        self::assertSame([960, 0, []], [$trial['rows'], $trial['unanswered'], $trial['stale']]);
        self::assertGreaterThan(0.6, $trial['value']);
        self::assertCount(10, $trial['each']);

        $judgment = $this->judged($trial['id']);
        self::assertNotContains('outcome', $judgment['inputs']);
        $cut = $judgment['figures']['cutoffs'][20];
        self::assertSame(960, $cut['tp'] + $cut['fp'] + $cut['fn'] + $cut['tn']);
        $missed = $this->call('GET', '/api/trials/'.$trial['id'].'/records?cell=fn&cutoff=0.2');
        self::assertSame($cut['fn'], $missed['total']);
        self::assertTrue($missed['records'][0]['event']);
        self::assertLessThan(0.2, $missed['records'][0]['chance']);
        self::assertNull($judgment['sealed']);

        $opened = $this->call('POST', '/api/trials/'.$trial['id'].'/seal');
        self::assertSame([240, 1], [$opened['sealed']['rows'], $opened['sealed']['opening']]);
        $this->call('POST', '/api/trials/'.$trial['id'].'/seal', null, 409);

        $reasons = $this->call('GET', '/api/trials/'.$trial['id'].'/reasons/3');
        self::assertEqualsWithDelta(
            $reasons['logOdds'],
            $reasons['base'] + array_sum(array_column($reasons['contributions'], 'effect')),
            1e-6,
        );
        $this->call('GET', '/api/trials/'.$trial['id'].'/reasons/99999', null, 404);

        $bookings = implode('', iterator_to_array(VisitGenerator::forPart(5, 'bookings')->bookings(60), false));
        $bookings = str_replace('days_ahead', 'lead_days', $bookings);
        $this->call('POST', "/api/studies/$id/tables", ['uploadId' => $this->upload($bookings), 'name' => 'bookings'], 202);
        $this->work();
        $tables = array_column($this->call('GET', "/api/studies/$id/tables"), 'id', 'name');
        $match = $this->call('POST', "/api/studies/$id/match", ['trialId' => $trial['id'], 'tableId' => $tables['bookings']]);
        self::assertStringContainsString('days_ahead is not in this table', $match['problems'][0]);
        $hand = ['days_ahead' => 'lead_days'];
        self::assertSame(
            [],
            $this->call(
                'POST',
                "/api/studies/$id/match",
                ['trialId' => $trial['id'], 'tableId' => $tables['bookings'], 'matching' => $hand],
            )['problems'],
        );
        $job = $this->call(
            'POST',
            "/api/studies/$id/scorings",
            ['trialId' => $trial['id'], 'tableId' => $tables['bookings'], 'matching' => $hand, 'cutoff' => 0.2],
            202,
        );
        $this->work();
        $scoring = $this->call('GET', '/api/scorings/'.$job['subject']);
        self::assertSame(['done', 60, 60], [$scoring['state'], $scoring['rows'], $scoring['scored']]);
        $rows = $this->call('GET', '/api/scorings/'.$scoring['id'].'/rows?which=called&carry[]=visit_id');
        self::assertSame($scoring['called'], $rows['total']);
        $chances = array_column($rows['rows'], 'chance');
        $sorted = $chances;
        rsort($sorted);
        self::assertSame($sorted, $chances);
        self::assertSame(1, $this->call('GET', '/api/scorings/'.$scoring['id'].'/rows?search=V1000007&carry[]=visit_id')['total']);
        $this->client->request('GET', '/api/scorings/'.$scoring['id'].'/file?carry[]=visit_id');
        $lines = explode("\r\n", trim((string) $this->client->getInternalResponse()->getContent()));
        self::assertSame('visit_id,return_visit_chance,called,because,status', $lines[0]);
        self::assertCount(61, $lines);

        $sentences = array_column($this->call('GET', "/api/studies/$id/logbook")['entries'], 'sentence');
        $book = implode("\n", $sentences);
        foreach ([
            'Imported own.csv as own: 1,200 records, 25 columns',
            '240 rows sealed',
            'Variant A now has 2 steps',
            'Trial 1, logistic regression on variant A: AUC 0.',
            'Seal opened for trial 1, opening 1 of this study',
            'Scored bookings with trial 1: 60 of 60',
            'Downloaded the scored list',
        ] as $said) {
            self::assertStringContainsString($said, $book);
        }
        self::assertSame(6, $this->call('GET', "/api/studies/$id")['station']);
    }

    public function testWhatMakesATrialStaleAndWhatDoesNot(): void
    {
        $this->signIn();
        $id = $this->study('Nobody home')['id'];
        $stale = fn (): array => $this->call('GET', "/api/studies/$id/trials")['trials'][0]['stale'];
        self::assertSame([], $stale());
        $variant = $this->call('GET', "/api/studies/$id/preparation")['variants'][0];
        $bare = array_map(static fn (array $s) => ['step' => $s['step']] + $s['settings'], $variant['steps']);
        $noted = array_map(static fn (array $s) => $s + ['note' => 'another note'], $bare);
        $variant = $this->call(
            'PUT',
            '/api/variants/'.$variant['id'],
            ['steps' => $noted, 'name' => 'Renamed'],
            200,
            ['If-Match' => (string) $variant['version']],
        );
        self::assertSame([], $stale(), 'names and notes change no figure');
        $this->call(
            'PUT',
            '/api/variants/'.$variant['id'],
            ['steps' => \array_slice($bare, 0, 1)],
            200,
            ['If-Match' => (string) $variant['version']],
        );
        self::assertSame(['the steps of variant A have changed'], $stale());
        $columns = array_column($this->call('GET', '/api/tables/'.$this->study('Nobody home')['tableId'])['columns'], null, 'name');
        $this->call(
            'PATCH',
            '/api/columns/'.$columns['slot']['id'],
            ['use' => 'set aside'],
            200,
            ['If-Match' => (string) $columns['slot']['version']],
        );
        self::assertContains('the kind or use of a column has changed', $stale());
        $study = $this->study('Nobody home');
        $this->call(
            'PUT',
            "/api/studies/$id/target",
            ['column' => 'return_visit', 'event' => 'yes'],
            200,
            ['If-Match' => (string) $study['version']],
        );
        self::assertContains('the table, the target or the split plan has changed', $stale());
    }

    public function testAStaleVersionIsRefusedAndBothAreShown(): void
    {
        $this->signIn();
        $variant = $this->call('GET', '/api/studies/1/preparation')['variants'][0];
        $path = '/api/variants/'.$variant['id'];
        $this->call('PUT', $path, ['name' => 'Mine'], 200, ['If-Match' => (string) $variant['version']]);
        $problem = $this->call('PUT', $path, ['name' => 'Yours'], 412, ['If-Match' => (string) $variant['version']]);
        self::assertSame('Mine', $problem['current']['name']);
        $this->call('PUT', $path, ['name' => 'Yours'], 428);
    }

    public function testTheSameKeyDoesTheWorkOnce(): void
    {
        $this->signIn();
        $variant = $this->call('GET', '/api/studies/1/preparation')['variants'][0]['id'];
        $one = $this->call('POST', '/api/studies/1/trials', ['variantId' => $variant], 202, ['Idempotency-Key' => 'k1']);
        $two = $this->call('POST', '/api/studies/1/trials', ['variantId' => $variant], 202, ['Idempotency-Key' => 'k1']);
        self::assertSame($one['id'], $two['id']);
        self::assertNotSame(
            $one['id'],
            $this->call('POST', '/api/studies/1/trials', ['variantId' => $variant], 202, ['Idempotency-Key' => 'k2'])['id'],
        );
    }

    public function testATrialThatNoWorkerCouldHoldIsRefusedBeforeItStarts(): void
    {
        $this->signIn();
        $variant = $this->call('GET', '/api/studies/1/preparation')['variants'][0]['id'];
        $this->service(\Doctrine\DBAL\Connection::class)->executeStatement('UPDATE data_table SET row_count = 3000000 WHERE id = 1');
        $problem = $this->call('POST', '/api/studies/1/trials', ['variantId' => $variant, 'learner' => 'logistic'], 409);
        self::assertMatchesRegularExpression('/would need about [\d.]+ GB; a worker has 2.0/', $problem['title']);
    }

    public function testADeletedStudyCanBeBroughtBack(): void
    {
        $this->signIn();
        $this->call('DELETE', '/api/studies/1', null, 204);
        $this->call('GET', '/api/studies/1', null, 404);
        $this->call('GET', '/api/tables/1', null, 404);
        $this->call('POST', '/api/studies/1/return');
        $this->call('GET', '/api/tables/1');
    }
}
