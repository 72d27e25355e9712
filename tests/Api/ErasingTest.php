<?php

declare(strict_types=1);

namespace App\Tests\Api;

use App\Operation\EraseCommand;
use App\Operation\Erasing;
use Doctrine\DBAL\Connection;
use Psr\Cache\CacheItemPoolInterface;
use Symfony\Component\Console\Tester\CommandTester;

/** One person's records go, by key, from every table, source and sentence; all others stay where they are. */
final class ErasingTest extends ApiTestCase
{
    public function testTheRecordsOfAPersonGoAndTheOthersKeepTheirPlaces(): void
    {
        $this->signIn();
        $study = $this->call('GET', '/api/studies/1');
        $table = (int) $study['tableId'];
        $columns = array_column($this->call('GET', "/api/tables/$table")['columns'], 'name');
        $key = (int) array_search('household_id', $columns, true);
        $before = $this->call('GET', "/api/tables/$table/rows?limit=60")['rows'];
        $person = $before[7]['cells'][$key];
        self::assertNotNull($person);
        $this->call('POST', '/api/studies/1/selections', [
            'name' => 'That house', 'view' => "table/$table/rows", 'query' => http_build_query(
                ['where' => json_encode([['household_id', 'is', $person]])],
            ),
        ], 201);
        $trial = $this->call('GET', '/api/studies/2')['trials'][0];
        self::assertFalse($trial['stale']);
        $found = $this->service(Erasing::class)->found('household_id', $person);
        self::assertArrayHasKey($table, $found);
        self::assertContains(7, $found[$table]);
        self::assertGreaterThan(1, \count($found), 'it is known in other tables too');

        $command = new CommandTester($this->service(EraseCommand::class));
        self::assertSame(0, $command->execute(['column' => 'household_id', 'value' => $person]));
        self::assertStringContainsString('Nothing was erased. Say --yes', $command->getDisplay());
        self::assertNotSame([], $this->service(Erasing::class)->found('household_id', $person));
        $kept = static::getContainer()->get('cache.app');
        \assert($kept instanceof CacheItemPoolInterface);
        $kept->save($kept->getItem('what-was-said')->set("of $person"));
        self::assertSame(0, $command->execute(['column' => 'household_id', 'value' => $person, '--yes' => true]));
        self::assertStringContainsString('learned from these records and is stale', $command->getDisplay());
        self::assertSame([], $this->service(Erasing::class)->found('household_id', $person));
        self::assertSame(1, $command->execute(['column' => 'household_id', 'value' => $person, '--yes' => true]));

        $this->entities()->clear();
        $after = $this->call('GET', "/api/tables/$table/rows?limit=60")['rows'];
        foreach ($before as $i => $row) {
            $gone = \in_array($i, $found[$table], true);
            self::assertSame($gone ? array_fill(0, \count($columns), null) : $row['cells'], $after[$i]['cells'], "record $i");
        }
        self::assertFalse($kept->hasItem('what-was-said'));
        // Nowhere is it written any more, neither as it is nor packed.
        $sql = $this->service(Connection::class);
        foreach ($sql->fetchFirstColumn('SELECT bytes FROM source_block') as $bytes) {
            $bytes = \is_resource($bytes) ? (string) stream_get_contents($bytes) : (string) $bytes;
            self::assertStringNotContainsString($person.',', (string) gzinflate($bytes));
        }
        foreach ([
            'SELECT levels FROM table_column',
            'SELECT misfits FROM table_column',
            'SELECT profile FROM table_column',
            'SELECT query FROM named_selection',
            'SELECT sentence FROM log_entry',
        ] as $all) {
            self::assertStringNotContainsString($person, implode(' ', array_map(strval(...), $sql->fetchFirstColumn($all))), $all);
        }
        self::assertTrue($this->call('GET', '/api/studies/2')['trials'][0]['stale']);
        self::assertStringContainsString('erased', $this->call('GET', '/api/audit')[0]['what']);
        self::assertStringNotContainsString($person, $this->call('GET', '/api/audit')[0]['what']);
    }
}
