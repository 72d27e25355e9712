<?php

declare(strict_types=1);

namespace App\Tests\Api;

use Doctrine\DBAL\Connection;
use PHPUnit\Framework\Attributes\DataProvider;

/** What cannot be done is refused with a sentence, and nothing is changed by it. */
final class RefusalTest extends ApiTestCase
{
    /** @return iterable<string, array{string, string, array<string, mixed>|null, int, string}> method, path, body, status, what the sentence says */
    public static function requests(): iterable
    {
        $long = str_repeat('long ', 100);
        yield 'a study without a name' => ['POST', '/api/studies', ['name' => ''], 422, 'The study needs a name.'];
        yield 'a study name too long' => ['POST', '/api/studies', ['name' => $long], 422, 'at most 120 letters'];
        yield 'a question too long' => ['POST', '/api/studies', ['name' => 'x', 'question' => $long], 422, 'at most 300 letters'];
        yield 'a study of an upload that is not there' => ['POST', '/api/studies', ['name' => 'x', 'uploadId' => 9999], 404, 'upload'];
        yield 'a name that is a list' => ['POST', '/api/studies', ['name' => ['x']], 422, ''];
        yield 'an unknown study' => ['GET', '/api/studies/9999', null, 404, 'There is no such study'];
        yield 'a study beyond all numbers' => ['GET', '/api/studies/99999999999999999999', null, 404, ''];
        yield 'a study to bring back that is not there' => ['POST', '/api/studies/9999/return', null, 404, 'study'];
        yield 'a target that is no column' => [
            'PUT',
            '/api/studies/1/target',
            ['column' => 'luck', 'event' => 'yes'],
            422,
            'There is no column luck',
        ];
        yield 'a target without an event' => [
            'PUT',
            '/api/studies/1/target',
            ['column' => 'return_visit', 'event' => ''],
            422,
            'Choose the class',
        ];
        yield 'an event that never happens' => [
            'PUT',
            '/api/studies/1/target',
            ['column' => 'return_visit', 'event' => 'perhaps'],
            422,
            'At least ten of either kind',
        ];
        yield 'a date as target' => [
            'PUT',
            '/api/studies/1/target',
            ['column' => 'visit_date', 'event' => 'yes'],
            422,
            'visit_date holds date',
        ];
        yield 'free text as target' => [
            'PUT',
            '/api/studies/1/target',
            ['column' => 'booking_note', 'event' => 'yes'],
            422,
            'booking_note holds text',
        ];
        yield 'a target of another table' => [
            'PUT',
            '/api/studies/1/target',
            ['column' => 'return_visit', 'event' => 'yes', 'tableId' => 9999],
            404,
            'table',
        ];
        yield 'most rows sealed' => [
            'PUT',
            '/api/studies/1/target',
            ['column' => 'return_visit', 'event' => 'yes', 'sealedShare' => 0.9],
            422,
            'Between 0 and 50%',
        ];
        yield 'no fold' => [
            'PUT',
            '/api/studies/1/target',
            ['column' => 'return_visit', 'event' => 'yes', 'folds' => 0],
            422,
            '1 to 20 folds',
        ];
        yield 'too many repeats' => [
            'PUT',
            '/api/studies/1/target',
            ['column' => 'return_visit', 'event' => 'yes', 'repeats' => 99],
            422,
            '1 to 20 folds',
        ];
        yield 'a member who is nobody' => [
            'PUT',
            '/api/studies/1/members',
            ['login' => 'nobody', 'role' => 'editor'],
            422,
            'Nobody signs in as nobody',
        ];
        yield 'a role that is none' => ['PUT', '/api/studies/1/members', ['login' => 'mara', 'role' => 'king'], 422, ''];
        yield 'the last owner steps down' => [
            'PUT',
            '/api/studies/1/members',
            ['login' => 'mara', 'role' => 'reader'],
            409,
            'keeps at least one owner',
        ];
        yield 'the last owner leaves' => ['PUT', '/api/studies/1/members', ['login' => 'mara'], 409, 'keeps at least one owner'];
        yield 'a file without a name' => ['POST', '/api/uploads', ['fileName' => '', 'size' => 5], 422, 'The file needs a name'];
        yield 'a file of 3 GB' => ['POST', '/api/uploads', ['fileName' => 'big.csv', 'size' => 3 << 30], 413, 'larger than 2 GB'];
        yield 'an upload of nobody' => ['GET', '/api/uploads/9999', null, 404, 'upload'];
        yield 'reading an upload of nobody' => ['GET', '/api/uploads/9999/reading', null, 404, 'upload'];
        yield 'a table without a name' => ['POST', '/api/studies/1/tables', ['uploadId' => 1, 'name' => ''], 422, 'The table needs a name'];
        yield 'an unknown table' => ['GET', '/api/tables/9999', null, 404, 'table'];
        yield 'rows sorted by nothing' => ['GET', '/api/tables/1/rows?sort=nothing', null, 422, 'nothing'];
        yield 'rows from somewhere' => ['GET', '/api/tables/1/rows?offset=here', null, 422, '"offset" should be a whole number.'];
        yield 'an unknown column' => ['GET', '/api/columns/9999', null, 404, 'column'];
        yield 'a kind that is none' => ['PATCH', '/api/columns/4', ['kind' => 'poem'], 422, ''];
        yield 'a use that is none' => ['PATCH', '/api/columns/4', ['use' => 'decoration'], 422, ''];
        yield 'a variant of nothing' => ['PUT', '/api/variants/9999', ['name' => 'x'], 404, 'variant'];
        yield 'a step that is none' => ['PUT', '/api/variants/1', ['steps' => [['step' => 'magic']]], 422, 'no step called "magic"'];
        yield 'steps that are no steps' => ['PUT', '/api/variants/1', ['steps' => ['fill']], 422, 'A step is an object'];
        yield 'a variant name too long' => ['PUT', '/api/variants/1', ['name' => $long], 422, 'at most 120 letters'];
        yield 'a preview of what is no step' => ['POST', '/api/variants/1/preview', ['steps' => ['fill']], 422, 'A step is an object'];
        yield 'a copy of another study\'s variant' => [
            'POST',
            '/api/studies/1/variants',
            ['name' => 'x', 'copyFrom' => 9999],
            404,
            'variant',
        ];
        yield 'a trial on no variant' => ['POST', '/api/studies/1/trials', ['variantId' => 0], 422, 'Choose the preparation variant'];
        yield 'a trial on another study\'s variant' => ['POST', '/api/studies/1/trials', ['variantId' => 2], 404, 'variant'];
        yield 'a learner that is none' => [
            'POST',
            '/api/studies/1/trials',
            ['variantId' => 1, 'learner' => 'oracle'],
            422,
            'no learner called',
        ];
        yield 'a setting that is none' => [
            'POST',
            '/api/studies/1/trials',
            ['variantId' => 1, 'settings' => ['luck' => 1]],
            422,
            'no setting called',
        ];
        yield 'judging nothing' => ['GET', '/api/trials/9999/judgment', null, 404, 'trial'];
        yield 'records of a cell that is none' => ['GET', '/api/trials/1/records?cell=maybe', null, 422, ''];
        yield 'sealing nothing' => ['POST', '/api/trials/9999/seal', null, 404, 'trial'];
        yield 'reasons for a record of a batch that is not there' => ['GET', '/api/scorings/9999/reasons/0', null, 404, ''];
        yield 'reasons for a record that is not there' => ['GET', '/api/trials/1/reasons/999999', null, 404, ''];
        yield 'matching nothing' => ['POST', '/api/studies/2/match', ['trialId' => 9999, 'tableId' => 1], 404, 'trial'];
        yield 'matching another study\'s table' => ['POST', '/api/studies/2/match', ['trialId' => 1, 'tableId' => 1], 404, ''];
        yield 'scoring at no cut-off' => [
            'POST',
            '/api/studies/2/scorings',
            ['trialId' => 1, 'tableId' => 5, 'cutoff' => 0],
            422,
            'A cut-off lies above 0',
        ];
        yield 'scoring above all chances' => [
            'POST',
            '/api/studies/2/scorings',
            ['trialId' => 1, 'tableId' => 5, 'cutoff' => 1.5],
            422,
            'A cut-off lies above 0',
        ];
        yield 'a batch that is not there' => ['GET', '/api/scorings/9999', null, 404, 'batch'];
        yield 'a job that is not there' => ['GET', '/api/jobs/9999', null, 404, ''];
        yield 'cancelling what is not there' => ['POST', '/api/jobs/9999/cancel', null, 404, ''];
        yield 'an account that is not there' => ['POST', '/api/accounts/9999/disable', null, 404, ''];
        yield 'a page that is not there' => ['GET', '/api/nowhere', null, 404, ''];
        yield 'a way that is not there' => ['DELETE', '/api/jobs', null, 405, ''];
    }

    /** @param array<string, mixed>|null $body */
    #[DataProvider('requests')]
    public function testIsRefusedWithASentence(string $method, string $path, ?array $body, int $status, string $says): void
    {
        $this->signIn();
        $headers = [];
        if (1 === preg_match('#^/api/(studies|columns|variants)/(\d+)#', $path, $m) && \in_array($method, ['PUT', 'PATCH'], true)) {
            $version = match ($m[1]) {
                'studies' => $this->call('GET', "/api/studies/$m[2]")['version'],
                'columns' => $this->call('GET', "/api/columns/$m[2]")['column']['version'],
                default => 9999 === (int) $m[2] ? 1 : $this->call('GET', '/api/studies/1/preparation')['variants'][0]['version'],
            };
            $headers = ['If-Match' => (string) $version];
        }
        $before = $this->state();
        $problem = $this->call($method, $path, $body, $status, $headers);
        self::assertIsString($problem['title'] ?? null);
        self::assertNotSame('', $problem['title']);
        self::assertStringContainsString($says, $problem['title']);
        self::assertSame($status, $problem['status']);
        self::assertStringNotContainsString('Exception', json_encode($problem, \JSON_THROW_ON_ERROR));
        self::assertStringNotContainsString('.php', json_encode($problem, \JSON_THROW_ON_ERROR));
        $this->entities()->clear();
        self::assertSame($before, $this->state(), 'nothing was changed');
    }

    /** @return array<string, mixed> */
    private function state(): array
    {
        $sql = $this->service(Connection::class);
        $state = [];
        foreach ([
            'study',
            'study_member',
            'data_table',
            'table_column',
            'variant',
            'trial',
            'scoring',
            'job',
            'log_entry',
            'upload',
        ] as $table) {
            $state[$table] = $sql->fetchAllNumeric('SELECT COUNT(*), MAX(id) FROM '.$table)[0];
        }
        $state['versions'] = $sql->fetchFirstColumn('SELECT version FROM study UNION ALL SELECT version FROM question UNION ALL SELECT version FROM variant UNION ALL SELECT version FROM table_column');

        return $state;
    }

    public function testABodyThatIsNoJsonIsSaidToBeNone(): void
    {
        $this->signIn();
        $this->client->request(
            'POST',
            '/api/studies',
            server: ['CONTENT_TYPE' => 'application/json', 'HTTP_ACCEPT' => 'application/json'],
            content: '{"name": ',
        );
        self::assertContains($this->client->getResponse()->getStatusCode(), [400, 422]);
        $problem = json_decode((string) $this->client->getResponse()->getContent(), true);
        self::assertIsArray($problem);
        self::assertIsString($problem['title']);
    }

    public function testAnOldVersionOfAnythingIsRefusedWithTheStoredOne(): void
    {
        $this->signIn();
        foreach ([
            ['PATCH', '/api/studies/1', ['name' => 'Other']],
            ['PUT', '/api/studies/1/target', ['column' => 'return_visit', 'event' => 'no']],
            ['PATCH', '/api/columns/4', ['use' => 'set aside']],
            ['PUT', '/api/variants/1', ['name' => 'Other']],
        ] as [$method, $path, $body]) {
            $problem = $this->call($method, $path, $body, 412, ['If-Match' => '99']);
            self::assertIsArray($problem['current'], $path);
            self::assertArrayHasKey('version', $problem['current'], $path);
            $this->call($method, $path, $body, 428);
            $this->call($method, $path, $body, 200, ['If-Match' => '"'.$problem['current']['version'].'"']);
        }
    }
}
