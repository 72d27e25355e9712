<?php

declare(strict_types=1);

namespace App\Tests\Console;

use App\Service\Door;
use App\Storage\Sealing;
use App\Tests\Fixture;
use PHPUnit\Framework\TestCase;

/** An installation keeps what it should: sealed values open after the secret was changed, and all of it comes back from a backup. */
final class KeepingTest extends TestCase
{
    private string $folder = '';

    protected function setUp(): void
    {
        $this->folder = sys_get_temp_dir().'/dokimos-keeping-'.bin2hex(random_bytes(4));
        Fixture::copy($this->folder);
    }

    protected function tearDown(): void
    {
        Fixture::run(['rm', '-rf', $this->folder, $this->folder.'-again']);
    }

    public function testAnotherSecretOpensWhatTheOneBeforeSealed(): void
    {
        $before = (string) file_get_contents($this->folder.'/app.secret');
        $sql = Fixture::sql($this->folder);
        self::assertNotSame('', $before);
        $sealed = (new Sealing($before))->seal("it's a secret", 'connections');
        $lost = (new Sealing('another'))->seal('x', 'connections');
        foreach ([$sealed, $lost] as $k => $value) {
            $sql->executeStatement(
                "INSERT INTO database_connection (created_at, host, database_name, login, sealed, user_id) VALUES ('2026-01-01 00:00:00', 'h$k', 'd', 'l', '$value', 1)",
            );
        }
        $says = Fixture::console(['dokimos:secret:rotate'], data: $this->folder)->getOutput();
        self::assertStringContainsString('1 sealed values were sealed anew, 1 could not be opened', $says);
        $after = (string) file_get_contents($this->folder.'/app.secret');
        self::assertNotSame($before, $after);
        self::assertSame($before, file_get_contents($this->folder.'/app.secret.before'));
        self::assertSame(0600, fileperms($this->folder.'/app.secret') & 0777);
        $kept = $sql->fetchOne("SELECT sealed FROM database_connection WHERE host = 'h0'");
        self::assertIsString($kept);
        self::assertSame("it's a secret", (new Sealing($after))->open($kept, 'connections'));
        self::assertNull((new Sealing($before))->open($kept, 'connections'));
        self::assertNull((new Sealing($after))->open($kept, 'second factor'), 'for one purpose alone');
        self::assertSame($lost, $sql->fetchOne("SELECT sealed FROM database_connection WHERE host = 'h1'"));
        self::assertStringContainsString(
            'Every entry is as it was written',
            Fixture::console(['dokimos:audit'], data: $this->folder)->getOutput(),
        );
    }

    public function testScoredRecordsGoWhenTheirDaysAreOver(): void
    {
        $sql = Fixture::sql($this->folder);
        $sql->executeStatement(
            "INSERT INTO data_table (id, state, row_count, fingerprint, repairs, imported_at, name, file_name, bytes, dialect, edition, study_id) VALUES (900, 'scored', 3, '', '[]', '2026-01-01 00:00:00', 's', '', 0, '[]', 1, 2), (901, 'scored', 3, '', '[]', '2026-01-01 00:00:00', 's', '', 0, '[]', 1, 1)",
        );
        foreach ([
            [900, 2, gmdate('Y-m-d H:i:s', time() - 40 * 86400)],
            [901, 1, gmdate('Y-m-d H:i:s', time() - 40 * 86400)],
        ] as [$answers, $study, $at]) {
            $sql->executeStatement(
                "INSERT INTO scoring (state, scored, called, created_at, matching, cutoff, study_id, trial_id, table_id, answers_id, summary, about) SELECT 'done', 3, 1, '$at', '[]', 0.2, $study, t.id, q.table_id, $answers, '[]', '{}' FROM trial t JOIN question q ON q.study_id = 2 LIMIT 1",
            );
        }
        $sql->executeStatement('UPDATE study SET keep_days = 30 WHERE id = 2');
        self::assertStringContainsString(
            '1 batches of scored records are gone',
            Fixture::console(['dokimos:housekeeping'], data: $this->folder)->getOutput(),
        );
        self::assertSame(
            [1, 1],
            [
                $sql->fetchOne('SELECT COUNT(*) FROM scoring'),
                $sql->fetchOne('SELECT COUNT(*) FROM data_table WHERE id IN (900, 901)'),
            ],
        );
    }

    public function testAServingInstallationComesBackFromItsBackup(): void
    {
        /** @param list<string> $arguments */
        $console = static fn (array $arguments, string $data): string => Fixture::console(array_values($arguments), data: $data)->getOutput();
        $console(
            ['dokimos:approve', '2', '1', '--sentence=It orders visits well.', '--limits=Not for prices.', '--again=2099-01-01'],
            $this->folder,
        );
        $console(['dokimos:service', 'home', '--study=2', '--approval=1'], $this->folder);
        self::assertSame(
            1,
            preg_match('/\b[A-Za-z0-9_-]{30,}\b/', $console(['dokimos:service', 'home', '--token=planning'], $this->folder), $token),
        );
        $example = Fixture::sql($this->folder)->fetchOne('SELECT example FROM service_version');
        self::assertIsString($example);
        $asked = json_encode(json_decode($example, true), \JSON_THROW_ON_ERROR);
        $answer = static function (string $data, string $shown) use ($asked): array {
            $own = $_SERVER['DATABASE_URL'] ?? '';
            $_SERVER['DATABASE_URL'] = Fixture::at($data)['DATABASE_URL'] ?? '';
            try {
                return (new Door($data))->answer('POST', '/serve/home', $shown, $asked, false);
            } finally {
                $_SERVER['DATABASE_URL'] = $own;
            }
        };
        [$status, $said] = $answer($this->folder, $token[0]);
        self::assertSame(200, $status, (string) json_encode($said));

        $backup = $this->folder.'/b.sqlite';
        $console(['dokimos:backup', $backup], $this->folder);
        $again = $this->folder.'-again';
        mkdir($again);
        $console(['dokimos:restore', $backup], $again);
        $console(['dokimos:migrate'], $again);
        [$status, $now] = $answer($again, $token[0]);
        unset($said['took_ms'], $now['took_ms']);
        self::assertSame([200, $said], [$status, $now], 'the same token, the same answer');
        self::assertSame(401, $answer($again, 'another')[0]);
    }
}
