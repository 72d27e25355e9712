<?php

declare(strict_types=1);

namespace App\Tests\Api;

use App\Account\Accounts;
use App\Account\Audit;
use App\Account\OneTimeCode;
use App\Account\Sessions;
use Doctrine\DBAL\Connection;
use PHPUnit\Framework\Attributes\DataProvider;

/** How accounts are kept safe: the second step, places where one is signed in, and what is written of it. */
final class SafetyTest extends ApiTestCase
{
    private const WORDS = ['login' => 'tove', 'password' => 'a-long-password'];

    /** @return iterable<string, array{int, string}> RFC 6238, appendix B, for SHA-1: the last six digits */
    public static function codes(): iterable
    {
        foreach ([
            59 => '287082',
            1111111109 => '081804',
            1111111111 => '050471',
            1234567890 => '005924',
            2000000000 => '279037',
        ] as $at => $code) {
            yield (string) $at => [$at, $code];
        }
    }

    #[DataProvider('codes')]
    public function testCodesAreThoseOfTheStandard(int $at, string $code): void
    {
        $secret = 'GEZDGNBVGY3TQOJQGEZDGNBVGY3TQOJQ';
        self::assertSame($code, OneTimeCode::at($secret, intdiv($at, 30)));
        $step = OneTimeCode::check($secret, ' '.substr($code, 0, 3).' '.substr($code, 3), $at + 29.0);
        self::assertSame(intdiv($at, 30), $step);
        self::assertNull(OneTimeCode::check($secret, $code, (float) $at, $step), 'a code opens once');
        self::assertNull(OneTimeCode::check($secret, $code, $at + 120.0), 'nor later');
        self::assertNull(OneTimeCode::check($secret, '', (float) $at));
    }

    public function testASecretIsReadBackAsItWasDrawn(): void
    {
        $drawn = array_map(static fn (): string => OneTimeCode::secret(), range(1, 50));
        self::assertCount(50, array_unique($drawn));
        foreach ($drawn as $secret) {
            self::assertMatchesRegularExpression('/^[A-Z2-7]{32}$/', $secret);
        }
        self::assertStringContainsString('otpauth://totp/Dokimos:a%20b?secret=X', OneTimeCode::link('X', 'a b'));
    }

    private function enter(): void
    {
        $this->service(Accounts::class)->add(self::WORDS['login'], 'Tove Lind', self::WORDS['password']);
        $this->call('POST', '/api/sign-in', self::WORDS);
    }

    private function leave(): void
    {
        $this->client->request('POST', '/api/session/end');
    }

    public function testTheSecondStepIsAskedForOnceThePasswordWasRight(): void
    {
        $this->enter();
        self::assertSame(
            [false, 0],
            [$this->call('GET', '/api/me/safety')['secondFactor'], $this->call('GET', '/api/me/safety')['codesLeft']],
        );
        $this->call('POST', '/api/me/second-factor/confirm', ['code' => '1'], 409);
        $begun = $this->call('POST', '/api/me/second-factor');
        $now = static fn (int $off = 0): string => OneTimeCode::at($begun['secret'], intdiv(time(), 30) + $off);
        // Until a code was shown, the password alone opens.
        $this->leave();
        $this->call('POST', '/api/sign-in', self::WORDS);
        $this->call('POST', '/api/me/second-factor/confirm', ['code' => '12345'], 422);
        $spare = $this->call('POST', '/api/me/second-factor/confirm', ['code' => $now(-1)])['codes'];
        self::assertCount(10, array_unique($spare));
        $this->call('POST', '/api/me/second-factor', [], 409);
        $this->leave();

        $wrong = $this->call('POST', '/api/sign-in', ['password' => 'no'] + self::WORDS, 401);
        self::assertSame('password', $wrong['field'], 'who does not know the password is told nothing');
        self::assertSame('code', $this->call('POST', '/api/sign-in', self::WORDS, 401)['field']);
        $this->call('GET', '/api/session', null, 401);
        $this->call('POST', '/api/sign-in', self::WORDS + ['code' => $now(-1)], 401);
        $this->call('POST', '/api/sign-in', self::WORDS + ['code' => $now(1)]);
        $this->leave();
        $this->call('POST', '/api/sign-in', self::WORDS + ['code' => $spare[3]]);
        self::assertSame(9, $this->call('GET', '/api/me/safety')['codesLeft']);
        $this->call('POST', '/api/me/second-factor/end', ['password' => 'no'], 422);
        $this->call('POST', '/api/me/second-factor/end', ['password' => self::WORDS['password']], 204);
        $this->leave();
        $this->call('POST', '/api/sign-in', self::WORDS);
    }

    public function testPlacesAreListedAndEnded(): void
    {
        $this->enter();
        $connection = $this->service(Connection::class);
        $user = $this->service(Accounts::class)->find('tove')?->id();
        $other = Sessions::hash('another machine');
        $add = static fn (string $hash, ?int $of): int|string => $connection->executeStatement(
            "INSERT INTO session (id_hash, user_id, content, began, seen, address, agent) VALUES (?, ?, '', ?, ?, '10.0.0.9', 'A browser')",
            [$hash, $of, time() - 3600, time() - 60],
        );
        $add($other, $user);
        $add(Sessions::hash('of somebody else'), 1);
        $places = $this->call('GET', '/api/me/safety')['places'];
        self::assertSame([[$other, '10.0.0.9', 'A browser', false]], array_map(
            static fn (array $p): array => [$p['hash'], $p['address'], $p['agent'], $p['own']],
            $places,
        ));
        $this->call('DELETE', '/api/me/sessions/'.Sessions::hash('of somebody else'), null, 404);
        $this->call('DELETE', '/api/me/sessions/'.$other, null, 204);
        self::assertSame([], $this->call('GET', '/api/me/safety')['places']);
    }

    public function testASessionLivesInTheStoreUnderAHashAndGrowsOld(): void
    {
        $sessions = $this->service(Sessions::class);
        $sessions->open('', 'dokimos');
        $connection = $this->service(Connection::class);
        self::assertSame('', $sessions->read('abc'));
        self::assertTrue($sessions->write('abc', "x\0y"));
        self::assertSame("x\0y", $sessions->read('abc'));
        self::assertFalse($connection->fetchOne('SELECT 1 FROM session WHERE id_hash = ?', ['abc']));
        self::assertTrue($sessions->updateTimestamp('abc', "x\0y"));
        $connection->executeStatement('UPDATE session SET seen = seen - 50000');
        self::assertSame('', $sessions->read('abc'));
        self::assertSame(1, $sessions->gc(0));
        $sessions->write('abc', 'z');
        self::assertTrue($sessions->destroy('abc'));
        self::assertSame('', $sessions->read('abc'));
    }

    public function testWhatIsDoneToTheInstallationIsWrittenAndAChangeIsFound(): void
    {
        $audit = $this->service(Audit::class);
        self::assertNull($audit->broken());
        $this->enter();
        $this->call('GET', '/api/audit', null, 403);
        $this->leave();
        $this->call('POST', '/api/sign-in', ['password' => 'no'] + self::WORDS, 401);
        $this->signIn();
        $this->call('PUT', '/api/studies/1/members', ['login' => 'tove', 'role' => 'reader']);
        $said = array_map(static fn (array $e): string => $e['who'].' '.$e['what'], $this->call('GET', '/api/audit'));
        self::assertContains('tove signed in', $said);
        self::assertContains('tove was not let in', $said);
        self::assertContains('mara made tove reader of study 1, Return visits', $said);
        self::assertNull($audit->broken());
        $connection = $this->service(Connection::class);
        $id = $connection->fetchOne('SELECT MIN(id) FROM audit');
        $connection->executeStatement("UPDATE audit SET what = 'signed out' WHERE id = ?", [$id]);
        self::assertSame($id, $audit->broken());
        $connection->executeStatement('DELETE FROM audit WHERE id = ?', [$id]);
        self::assertNotNull($audit->broken(), 'one that is gone is found');
    }
}
