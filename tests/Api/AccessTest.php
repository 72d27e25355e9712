<?php

declare(strict_types=1);

namespace App\Tests\Api;

use App\Account\Accounts;
use App\Account\Audit;
use App\Account\SignInAnswer;
use App\Storage\Store;
use App\Study\Role;
use App\Study\Study;
use App\Study\StudyMember;
use Symfony\Component\Cache\Adapter\ArrayAdapter;
use Symfony\Component\HttpFoundation\Request;
use Symfony\Component\HttpFoundation\RequestStack;
use Symfony\Component\PasswordHasher\Hasher\UserPasswordHasherInterface;
use Symfony\Component\RateLimiter\RateLimiterFactory;
use Symfony\Component\RateLimiter\Storage\InMemoryStorage;
use Symfony\Component\Routing\RouterInterface;
use Symfony\Component\Security\Core\Exception\BadCredentialsException;
use Symfony\Component\Security\Core\Exception\UserNotFoundException;

/** Every route asks who it is. */
final class AccessTest extends ApiTestCase
{
    private const PUBLIC = ['/api/sign-in', '/api/setup', '/api/setup/invited', '/api/health', '/api/session/end'];
    private const OF_NO_STUDY = [
        '/api/notices',
        '/api/connections',
        '/api/connections/sample',
        '/api/steps',
        '/api/examples',
        '/api/examples/{name}',
        '/api/session',
        '/api/studies',
        '/api/studies/deleted',
        '/api/studies/replay',
        '/api/uploads',
        '/api/jobs',
        '/api/learners',
        // One's own account.
        '/api/me/safety',
        '/api/me/second-factor',
        '/api/me/second-factor/confirm',
        '/api/me/second-factor/end',
    ];

    /** @return iterable<string, array{string, string}> */
    private function routes(): iterable
    {
        foreach ($this->service(RouterInterface::class)->getRouteCollection() as $name => $route) {
            $path = $route->getPath();
            if (str_starts_with($path, '/api/') && !\in_array($path, self::PUBLIC, true)) {
                foreach ($route->getMethods() ?: ['GET'] as $method) {
                    yield $name => [$method, $path];
                }
            }
        }
    }

    public function testAStrangerGetsNothing(): void
    {
        $tried = 0;
        foreach ($this->routes() as [$method, $path]) {
            $this->call(
                $method,
                strtr($path, ['{id}' => '1', '{number}' => '1', '{token}' => '1', '{hash}' => str_repeat('0', 64), '{name}' => 'visits']),
                'GET' === $method ? null : [],
                401,
            );
            ++$tried;
        }
        self::assertGreaterThan(30, $tried);
    }

    public function testSomebodyElseGetsNothingOfAStudyThatIsNotTheirs(): void
    {
        $this->service(Accounts::class)->add('otto', 'Otto Venn', 'a-long-password');
        $this->signIn('otto');
        foreach ($this->routes() as [$method, $path]) {
            if (\in_array($path, self::OF_NO_STUDY, true)) {
                continue;
            }
            $body = match (true) {
                'GET' === $method => null,
                str_ends_with($path, '/tables') => ['uploadId' => 1, 'name' => 'x'],
                str_ends_with($path, '/columns') => ['versions' => ['1' => 1]],
                str_ends_with($path, '/settle') => ['key' => 'constant: currency', 'reason' => 'taken over'],
                str_ends_with($path, '/members') => ['login' => 'otto', 'role' => 'owner'],
                str_ends_with($path, '/target') => ['column' => 'x', 'event' => 'y'],
                str_ends_with($path, '/trials'), str_ends_with($path, '/guided') => ['variantId' => 1],
                str_ends_with($path, '/several') => ['variantId' => 1, 'learners' => ['tree']],
                str_ends_with($path, '/blends') => ['trials' => [1, 2]],
                str_ends_with($path, '/searches'), str_ends_with($path, '/weigh') => [
                    'variantIds' => [1],
                    'spaces' => [['learner' => 'tree']],
                ],
                str_ends_with($path, '/choices') => ['names' => ['slot'], 'name' => 'x'],
                str_ends_with($path, '/export'), str_ends_with($path, '/plan') => ['table' => 'x'],
                str_ends_with($path, '/table') => ['name' => 'x'],
                str_ends_with($path, '/routines') => ['trialId' => 1, 'name' => 'x', 'plan' => ['table' => 'visits']],
                str_ends_with($path, '/approvals') => ['sentence' => 'x', 'limits' => 'y', 'again' => '2099-01-01'],
                str_ends_with($path, '/withdraw') => ['why' => 'x'],
                str_ends_with($path, '/services') => ['name' => 'x', 'approvalId' => 1],
                str_ends_with($path, '/tokens') => ['caller' => 'x'],
                str_ends_with($path, '/try') => ['versions' => [1]],
                str_ends_with($path, '/take-away') => ['form' => 'json'],
                str_ends_with($path, '/inside') => ['connectionId' => 1, 'from' => 'x', 'into' => 'y'],
                str_ends_with($path, '/replay') => ['file' => '{}'],
                str_ends_with($path, '/keeping') => ['days' => 1],
                str_ends_with($path, '/later') => ['again' => '2099-01-01'],
                str_ends_with($path, '/rechecks') => ['tableId' => 1],
                str_ends_with($path, '/selections') => ['name' => 'x', 'view' => 'table/1/rows'],
                str_ends_with($path, '/figure') => ['figure' => 'auc'],
                str_ends_with($path, '/reduce') => ['columns' => ['slot']],
                'PATCH' === $method && str_starts_with($path, '/api/studies') => ['name' => 'taken over'],
                default => new \stdClass(),
            };
            $query = str_contains($path, 'pieces') ? '?offset=0' : '';
            $this->client->request(
                $method,
                strtr($path, ['{id}' => '1', '{number}' => '1', '{token}' => '1', '{hash}' => str_repeat('0', 64), '{name}' => 'visits']).$query,
                server: ['CONTENT_TYPE' => 'application/json', 'HTTP_IF_MATCH' => '1'],
                content: null === $body ? null : json_encode($body, \JSON_THROW_ON_ERROR),
            );
            self::assertContains(
                $this->client->getResponse()->getStatusCode(),
                [403, 404],
                $method.' '.$path.': '.$this->client->getResponse()->getContent(),
            );
        }
        self::assertSame([], $this->call('GET', '/api/studies'));
        self::assertSame([], $this->call('GET', '/api/jobs'));
    }

    public function testAReaderMayLookButNotChange(): void
    {
        $reader = $this->service(Accounts::class)->add('rita', 'Rita Lorne', 'a-long-password');
        $study = $this->entities()->find(Study::class, 1);
        self::assertNotNull($study);
        $this->entities()->persist(new StudyMember($study, $reader, Role::Reader));
        $this->entities()->flush();
        $this->signIn('rita');
        self::assertSame('reader', $this->call('GET', '/api/studies/1')['role']);
        $this->call('GET', '/api/tables/1');
        $problem = $this->call('POST', '/api/studies/1/trials', ['variantId' => 1], 403);
        self::assertSame('You are a reader of this study; only an editor may do this.', $problem['title']);
        $this->call('DELETE', '/api/studies/1', [], 403);
    }

    public function testAnotherSiteIsRefused(): void
    {
        $this->signIn();
        $this->call('POST', '/api/studies', ['name' => 'x'], 403, ['Origin' => 'http://elsewhere.example']);
        $this->call('POST', '/api/studies', ['name' => 'x'], 403, ['Sec-Fetch-Site' => 'cross-site']);
        $this->call('POST', '/api/studies', ['name' => 'x'], 201, ['Origin' => 'http://localhost']);
    }

    public function testSigningInOutAndThrottling(): void
    {
        $this->service(Accounts::class)->add('sven', 'Sven Tor', 'a-long-password');
        $wrong = $this->call('POST', '/api/sign-in', ['login' => 'sven', 'password' => 'no'], 401);
        self::assertSame(
            $wrong['title'],
            $this->call('POST', '/api/sign-in', ['login' => 'nobody-'.bin2hex(random_bytes(4)), 'password' => 'no'], 401)['title'],
            'it does not tell which names exist',
        );
        self::assertSame('ST', $this->call('POST', '/api/sign-in', ['login' => 'sven', 'password' => 'a-long-password'])['initials']);
        self::assertSame('sven', $this->call('GET', '/api/session')['login']);
        $this->client->request('POST', '/api/session/end');
        $this->call('GET', '/api/session', null, 401);
        $name = 'guess-'.bin2hex(random_bytes(4));
        $codes = [];
        for ($i = 0; $i < 8; ++$i) {
            $this->client->request(
                'POST',
                '/api/sign-in',
                server: ['CONTENT_TYPE' => 'application/json'],
                content: json_encode(['login' => $name, 'password' => 'x'], \JSON_THROW_ON_ERROR),
            );
            $codes[] = $this->client->getResponse()->getStatusCode();
        }
        self::assertContains(429, $codes);
        self::assertGreaterThan(
            0,
            $this->entities()->getConnection()->fetchOne("SELECT COUNT(*) FROM cache_items WHERE item_id NOT LIKE 'kept:%'"),
            'counted where every web server of the installation sees it',
        );
    }

    public function testADisabledAccountStaysOut(): void
    {
        $accounts = $this->service(Accounts::class);
        $accounts->add('uwe', 'Uwe Rand', 'a-long-password');
        $this->call('POST', '/api/sign-in', ['login' => 'uwe', 'password' => 'a-long-password']);
        $this->call('GET', '/api/studies');
        $accounts->disable($accounts->find('uwe') ?? self::fail('There is no uwe.'));
        $this->call('GET', '/api/studies', null, 401);
        $this->call('POST', '/api/studies', ['name' => 'x'], 401);
        self::assertStringContainsString(
            'disabled',
            (string) $this->call('POST', '/api/sign-in', ['login' => 'uwe', 'password' => 'a-long-password'], 403)['title'],
        );
        $guessed = $this->call('POST', '/api/sign-in', ['login' => 'uwe', 'password' => 'wrong'], 401);
        self::assertSame(
            $guessed,
            $this->call('POST', '/api/sign-in', ['login' => 'nobody-'.bin2hex(random_bytes(4)), 'password' => 'wrong'], 401),
            'it does not tell which names are disabled',
        );
    }

    public function testSigningOutEndsStayingToo(): void
    {
        $this->service(Accounts::class)->add('stan', 'Stan Ley', 'a-long-password');
        $this->call('POST', '/api/sign-in', ['login' => 'stan', 'password' => 'a-long-password', '_remember_me' => true]);
        $jar = $this->client->getCookieJar();
        $stay = $jar->get('dokimos_stay');
        self::assertNotNull($stay);
        // The session is lost, as in a browser that was closed.
        $jar->clear();
        $jar->set($stay);
        self::assertSame('stan', $this->call('GET', '/api/session')['login']);
        $this->client->request('POST', '/api/session/end', server: ['HTTP_HOST' => 'elsewhere.example']);
        self::assertSame(
            [204, null],
            [$this->client->getResponse()->getStatusCode(), $this->client->getResponse()->headers->get('Location')],
        );
        $jar->clear();
        $jar->set($stay);
        $this->call('GET', '/api/session', null, 401);
    }

    public function testUnknownNamesAreCheckedAsLongAsKnownOnes(): void
    {
        // What a hash costs is the same when it is checked against the hash of nobody.
        $hasher = $this->createMock(UserPasswordHasherInterface::class);
        $hasher->method('hashPassword')->willReturn('hash');
        $hasher->expects(self::once())->method('isPasswordValid')->with(self::anything(), 'guess');
        $accounts = new Accounts(
            $this->entities(),
            $hasher,
            '',
            new RateLimiterFactory(['id' => 'x', 'policy' => 'no_limit'], new InMemoryStorage()),
            new RequestStack(),
            new ArrayAdapter(),
            $this->service(Store::class),
        );
        (new SignInAnswer($accounts, $this->service(Audit::class)))->onAuthenticationFailure(
            new Request(content: '{"login":"x","password":"guess"}', server: ['CONTENT_TYPE' => 'application/json']),
            new BadCredentialsException('', 0, new UserNotFoundException()),
        );
        (new SignInAnswer($accounts, $this->service(Audit::class)))->onAuthenticationFailure(
            new Request(content: '{"login":"x","password":"guess"}', server: ['CONTENT_TYPE' => 'application/json']),
            new BadCredentialsException(),
        );
    }

    public function testPasswordsTooLongToHashAreRefused(): void
    {
        $this->service(Accounts::class)->add('lena', 'Lena Wirt', 'a-long-password');
        $this->call('POST', '/api/sign-in', ['login' => 'lena', 'password' => str_repeat('x', 5000)], 401);
        $this->call('POST', '/api/sign-in', ['login' => str_repeat('x', 5000), 'password' => 'x'], 401);
        $this->signIn();
        $code = explode('=', (string) $this->call('POST', '/api/invitations', null, 201)['path'])[1];
        self::assertStringContainsString(
            'at most 1,000 bytes',
            $this->call(
                'POST',
                '/api/setup/invited',
                ['code' => $code, 'login' => 'lars', 'name' => 'Lars', 'password' => str_repeat('x', 5000)],
                422,
            )['title'],
        );
        $this->call(
            'POST',
            '/api/setup/invited',
            ['code' => $code, 'login' => 'lars', 'name' => 'Lars', 'password' => 'a-long-password'],
            201,
        );
    }

    public function testWrongCodesOfOthersKeepNobodyOut(): void
    {
        $this->signIn();
        $code = explode('=', (string) $this->call('POST', '/api/invitations', null, 201)['path'])[1];
        $body = ['login' => 'ida', 'name' => 'Ida Moor', 'password' => 'a-long-password'];
        $codes = [];
        for ($i = 0; $i < 9; ++$i) {
            $this->client->request(
                'POST',
                '/api/setup/invited',
                server: ['CONTENT_TYPE' => 'application/json', 'REMOTE_ADDR' => '192.0.2.7'],
                content: json_encode(['code' => 'guess '.$i] + $body, \JSON_THROW_ON_ERROR),
            );
            $codes[] = $this->client->getResponse()->getStatusCode();
        }
        self::assertContains(429, $codes);
        // Neither somebody elsewhere nor, with the right code, somebody at the same place is kept waiting.
        $this->call('POST', '/api/setup/invited', ['code' => 'guess'] + $body, 422);
        $this->client->request(
            'POST',
            '/api/setup/invited',
            server: ['CONTENT_TYPE' => 'application/json', 'REMOTE_ADDR' => '192.0.2.7'],
            content: json_encode(['code' => $code] + $body, \JSON_THROW_ON_ERROR),
        );
        self::assertSame(201, $this->client->getResponse()->getStatusCode());
    }

    public function testARepeatedRequestIsAnsweredOnlyWhileAccessIsWhatItWas(): void
    {
        $accounts = $this->service(Accounts::class);
        $accounts->add('rob', 'Rob Ense', 'a-long-password');
        $this->signIn();
        $this->call('PUT', '/api/studies/1/members', ['login' => 'rob', 'role' => 'editor']);
        $this->signIn('rob');
        $key = ['Idempotency-Key' => 'once'];
        $made = $this->call('POST', '/api/studies', ['name' => 'Own'], 201, $key);
        self::assertSame($made, $this->call('POST', '/api/studies', ['name' => 'Own'], 201, $key));
        $this->signIn();
        $this->call('PUT', '/api/studies/1/members', ['login' => 'rob', 'role' => 'reader']);
        $this->signIn('rob');
        self::assertStringContainsString('access has changed', $this->call('POST', '/api/studies', ['name' => 'Own'], 409, $key)['title']);
    }

    public function testRequestsLargerThanAnythingAskedForAreRefused(): void
    {
        $this->signIn();
        $this->client->request(
            'POST',
            '/api/studies',
            server: ['CONTENT_TYPE' => 'application/json', 'HTTP_CONTENT_LENGTH' => (string) (40 << 20)],
            content: '{}',
        );
        self::assertSame(413, $this->client->getResponse()->getStatusCode());
        $this->client->request(
            'PUT',
            '/api/uploads/1/pieces?offset=0',
            server: ['HTTP_CONTENT_LENGTH' => (string) (10 << 20)],
            content: 'x',
        );
        self::assertSame(413, $this->client->getResponse()->getStatusCode());
    }

    public function testAReaderStartsNoCounting(): void
    {
        $this->service(Accounts::class)->add('ruth', 'Ruth Ander', 'a-long-password');
        $this->signIn();
        $this->call('PUT', '/api/studies/1/members', ['login' => 'ruth', 'role' => 'reader']);
        $variant = $this->call('GET', '/api/studies/1/preparation')['variants'][0]['id'];
        $this->signIn('ruth');
        $this->call('POST', "/api/variants/$variant/count", ['steps' => []], 403);
    }

    public function testTheOwnersAccountIsMadeOnceWithTheCode(): void
    {
        self::assertFalse($this->call('GET', '/api/setup')['needsOwner']);
        $this->call('POST', '/api/setup', ['code' => 'X', 'login' => 'boss', 'name' => 'B', 'password' => 'a-long-password'], 409);
        $this->entities()->createQuery('DELETE FROM App\Account\User')->execute();
        self::assertTrue($this->call('GET', '/api/setup')['needsOwner']);
        $code = $this->service(Accounts::class)->setupCode();
        $this->call('POST', '/api/setup', ['code' => 'WRONG', 'login' => 'boss', 'name' => 'B', 'password' => 'a-long-password'], 422);
        $this->call('POST', '/api/setup', ['code' => $code, 'login' => 'boss', 'name' => 'B', 'password' => 'short'], 422);
        self::assertTrue($this->call(
            'POST',
            '/api/setup',
            ['code' => $code, 'login' => 'boss', 'name' => 'Bo Ss', 'password' => 'a-long-password'],
            201,
        )['owner']);
        self::assertSame('boss', $this->call('GET', '/api/session')['login']);
    }

    public function testTheOwnerInvitesByLinkAndSharesAStudy(): void
    {
        $this->signIn();
        $code = explode('=', (string) $this->call('POST', '/api/invitations', null, 201)['path'])[1];
        $body = ['code' => $code, 'login' => 'ines', 'name' => 'Ines Tarn', 'password' => 'a-long-password'];
        $this->call('POST', '/api/setup/invited', ['code' => 'guess'] + $body, 422);
        self::assertFalse($this->call('POST', '/api/setup/invited', $body, 201)['owner']);
        $this->call('POST', '/api/setup/invited', ['login' => 'two'] + $body, 422);
        $this->call('GET', '/api/accounts', null, 403);
        $this->call('POST', '/api/invitations', null, 403);
        $this->call('GET', '/api/studies/1', null, 404);
        $this->signIn();
        $this->call('PUT', '/api/studies/1/members', ['login' => 'nobody', 'role' => 'reader'], 422);
        self::assertSame(
            ['mara', 'ines'],
            array_column($this->call('PUT', '/api/studies/1/members', ['login' => 'ines', 'role' => 'reader']), 'login'),
        );
        $this->call('PUT', '/api/studies/1/members', ['login' => 'mara', 'role' => null], 409);
        $this->signIn('ines');
        self::assertSame('reader', $this->call('GET', '/api/studies/1')['role']);
        $this->call('PUT', '/api/studies/1/members', ['login' => 'ines', 'role' => 'owner'], 403);
        $this->signIn();
        $this->call('PUT', '/api/studies/1/members', ['login' => 'ines', 'role' => null]);
        $ids = array_column($this->call('GET', '/api/accounts'), 'id', 'login');
        $this->call('POST', '/api/accounts/'.$ids['mara'].'/disable', null, 409);
        self::assertTrue($this->call('POST', '/api/accounts/'.$ids['ines'].'/disable')['disabled']);
    }

    public function testAnErrorIsASentenceAndNoTrace(): void
    {
        $this->signIn();
        foreach ([
            ['GET', '/api/nothing-here', 404],
            ['GET', '/api/studies/99999', 404],
            ['PUT', '/api/studies', 405],
            ['POST', '/api/studies', 422],
        ] as [$method, $path, $status]) {
            $problem = $this->call($method, $path, 'POST' === $method ? [] : null, $status);
            self::assertSame($status, $problem['status']);
            self::assertArrayNotHasKey('trace', $problem);
        }
        $this->client->request('POST', '/api/studies', server: ['CONTENT_TYPE' => 'application/json'], content: '{broken');
        self::assertSame('application/problem+json', $this->client->getResponse()->headers->get('Content-Type'));
    }
}
