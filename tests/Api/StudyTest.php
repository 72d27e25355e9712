<?php

declare(strict_types=1);

namespace App\Tests\Api;

use App\Account\Accounts;
use App\Operation\Housekeeping;
use Doctrine\DBAL\Connection;

/** Studies, who belongs to them, and the book of what was done. */
final class StudyTest extends ApiTestCase
{
    public function testAStudyIsBegunRenamedAndSaysWhatWaits(): void
    {
        $this->signIn();
        $study = $this->call('POST', '/api/studies', ['name' => '  Trips ', 'question' => ''], 201);
        self::assertSame(
            ['Trips', 'Trips?', 'owner', 0, 1],
            [$study['name'], $study['question'], $study['role'], $study['rows'], $study['station']],
        );
        self::assertSame(['a table to import'], $study['waits']);
        $study = $this->call(
            'PATCH',
            '/api/studies/'.$study['id'],
            ['name' => 'Journeys', 'question' => 'Who travels?'],
            200,
            ['If-Match' => (string) $study['version']],
        );
        self::assertSame(['Journeys', 'Who travels?'], [$study['name'], $study['question']]);
        $again = $this->call('PATCH', '/api/studies/'.$study['id'], ['name' => 'Ways'], 200, ['If-Match' => (string) $study['version']]);
        self::assertSame('Who travels?', $again['question'], 'an empty question leaves the old one');
        self::assertGreaterThan($study['version'], $again['version']);
    }

    public function testTheHomePageListsOwnStudiesOnly(): void
    {
        $this->signIn();
        $names = array_column($this->call('GET', '/api/studies'), 'name');
        self::assertSame(['Return visits', 'Nobody home', 'Minutes on site'], $names);
        $this->service(Accounts::class)->add('otto', 'Otto Venn', 'a-long-password');
        $this->signIn('otto');
        self::assertSame([], $this->call('GET', '/api/studies'));
        $this->call('POST', '/api/studies', ['name' => 'Mine'], 201);
        self::assertSame(['Mine'], array_column($this->call('GET', '/api/studies'), 'name'));
    }

    public function testDeletedStudiesAreListedForTheirOwnerUntilTheyAreGone(): void
    {
        $this->service(Accounts::class)->add('otto', 'Otto Venn', 'a-long-password');
        $this->signIn();
        $this->call('PUT', '/api/studies/1/members', ['login' => 'otto', 'role' => 'editor']);
        $this->call('DELETE', '/api/studies/1', null, 204);
        $deleted = $this->call('GET', '/api/studies/deleted');
        self::assertSame([1, 'Return visits'], [$deleted[0]['id'], $deleted[0]['name']]);
        self::assertContains($deleted[0]['daysLeft'], [29, 30]);
        self::assertNotContains('Return visits', array_column($this->call('GET', '/api/studies'), 'name'));
        $this->signIn('otto');
        self::assertSame([], $this->call('GET', '/api/studies/deleted'), 'an editor cannot bring it back');
        $this->call('POST', '/api/studies/1/return', null, 403);

        $sql = $this->service(Connection::class);
        $sql->executeStatement('UPDATE study SET deleted_at = ? WHERE id = 1', [gmdate('Y-m-d H:i:s', time() - 29 * 86400)]);
        $this->entities()->clear();
        $this->signIn();
        self::assertContains($this->call('GET', '/api/studies/deleted')[0]['daysLeft'], [0, 1]);
        self::assertSame(
            [],
            array_filter($this->service(Housekeeping::class)->run(), static fn (string $s) => str_contains($s, 'gone for good')),
        );
        $sql->executeStatement('UPDATE study SET deleted_at = ? WHERE id = 1', [gmdate('Y-m-d H:i:s', time() - 31 * 86400)]);
        self::assertStringContainsString(
            '1 studies deleted over 30 days ago are gone for good',
            implode(' ', $this->service(Housekeeping::class)->run()),
        );
        $this->entities()->clear();
        self::assertSame([], $this->call('GET', '/api/studies/deleted'));
        self::assertSame(0, (int) $sql->fetchOne('SELECT COUNT(*) FROM column_chunk WHERE table_id = 1'), 'its cells are gone with it');
    }

    public function testRolesDecideWhatAMemberMayDo(): void
    {
        $this->service(Accounts::class)->add('rita', 'Rita Lorne', 'a-long-password');
        $variant = function (): array {
            return $this->call('GET', '/api/studies/1/preparation')['variants'][0];
        };
        foreach ([
            'reader' => [200, 403, 403],
            'editor' => [200, 200, 403],
            'owner' => [200, 200, 200],
        ] as $role => [$look, $change, $share]) {
            $this->signIn();
            $members = array_column($this->call('PUT', '/api/studies/1/members', ['login' => 'rita', 'role' => $role]), 'role', 'login');
            self::assertSame($role, $members['rita']);
            $this->entities()->clear();
            $this->signIn('rita');
            $this->call('GET', '/api/studies/1/logbook', null, $look);
            $v = $variant();
            $this->call('PUT', '/api/variants/'.$v['id'], ['name' => 'By '.$role], $change, ['If-Match' => (string) $v['version']]);
            $this->call('POST', '/api/variants/'.$v['id'].'/preview', ['steps' => []], $look);
            $this->call('PUT', '/api/studies/1/members', ['login' => 'rita', 'role' => $role], $share);
        }
        $this->signIn();
        self::assertNotContains('rita', array_column($this->call('PUT', '/api/studies/1/members', ['login' => 'rita']), 'login'));
        $this->entities()->clear();
        $this->signIn('rita');
        $this->call('GET', '/api/studies/1', null, 404);
    }

    public function testTheLogbookTellsWhoDidWhatNewestFirstAndCannotBeChanged(): void
    {
        $this->signIn();
        $before = $this->call('GET', '/api/studies/1/logbook');
        $column = $this->call('GET', '/api/columns/6')['column'];
        $this->call('PATCH', '/api/columns/6', ['use' => 'set aside', 'known' => false], 200, ['If-Match' => (string) $column['version']]);
        $after = $this->call('GET', '/api/studies/1/logbook');
        self::assertGreaterThan($before['total'], $after['total']);
        self::assertSame('Mara Kell', $after['entries'][0]['who']);
        self::assertStringContainsString($column['name'], $after['entries'][0]['sentence']);
        $ids = array_column($after['entries'], 'id');
        $sorted = $ids;
        rsort($sorted);
        self::assertSame($sorted, $ids);
        foreach (['POST', 'PUT', 'PATCH', 'DELETE'] as $method) {
            $this->call($method, '/api/studies/1/logbook', [], 405);
        }
    }

    public function testChoosingATargetDrawsTheSealedRowsOnceForASeed(): void
    {
        $this->signIn();
        $choose = function (array $more): array {
            $study = $this->call('GET', '/api/studies/1');

            return $this->call(
                'PUT',
                '/api/studies/1/target',
                ['column' => 'return_visit', 'event' => 'yes'] + $more,
                200,
                ['If-Match' => (string) $study['version']],
            );
        };
        $rows = fn (): string => (string) $this->service(Connection::class)->fetchOne('SELECT sealed FROM question WHERE id = 1');
        $first = $choose(['seed' => 7]);
        $drawn = $rows();
        self::assertSame(
            [300, 1200, 7, 5, 2],
            [$first['sealedRows'], $first['openRows'], $first['plan']['seed'], $first['plan']['folds'], $first['plan']['repeats']],
        );
        $choose(['seed' => 8]);
        self::assertNotSame($drawn, $rows());
        $choose(['seed' => 7]);
        self::assertSame($drawn, $rows());
        $third = $choose(['sealedShare' => 0.5, 'folds' => 3, 'repeats' => 1]);
        self::assertEqualsWithDelta(750, $third['sealedRows'], 1, 'half of either kind');
        self::assertSame([3, 1], [$third['plan']['folds'], $third['plan']['repeats']]);
        self::assertSame(0, $choose(['sealedShare' => 0.0])['sealedRows']);
    }

    public function testANumberCanBeATargetThroughOneOfItsValues(): void
    {
        $this->signIn();
        $study = $this->call('GET', '/api/studies/1');
        $study = $this->call(
            'PUT',
            '/api/studies/1/target',
            ['column' => 'past_returns', 'event' => '0'],
            200,
            ['If-Match' => (string) $study['version']],
        );
        self::assertSame(['past_returns', '0'], [$study['target'], $study['event']]);
        $uses = array_column($this->call('GET', '/api/tables/1')['columns'], 'use', 'name');
        self::assertSame('target', $uses['past_returns']);
        self::assertSame('set aside', $uses['return_visit'], 'the target of before never becomes an input by itself');
    }
}
