<?php

declare(strict_types=1);

namespace App\Account;

use App\Http\Problem;
use App\Storage\Store;
use Doctrine\DBAL\ParameterType;
use Doctrine\ORM\EntityManagerInterface;
use Symfony\Component\DependencyInjection\Attribute\Autowire;
use Symfony\Component\HttpFoundation\RequestStack;
use Symfony\Component\PasswordHasher\Hasher\UserPasswordHasherInterface;
use Symfony\Component\RateLimiter\RateLimiterFactory;
use Symfony\Contracts\Cache\CacheInterface;

/** Makes and changes accounts. */
final readonly class Accounts
{
    public const SHORTEST_PASSWORD = 10;
    /** In bytes; hashing takes no more than 4,096, and nobody types so many. */
    public const LONGEST_PASSWORD = 1000;

    public function __construct(
        private EntityManagerInterface $entities,
        private UserPasswordHasherInterface $hasher,
        private string $dataDirectory,
        #[Autowire(service: 'limiter.setup')]
        private RateLimiterFactory $setupLimiter,
        private RequestStack $requests,
        private CacheInterface $cache,
        private Store $store,
    ) {
    }

    public function isEmpty(): bool
    {
        return 0 === $this->entities->getRepository(User::class)->count([]);
    }

    public function add(string $login, string $name, string $password, bool $owner = false): User
    {
        if (1 !== preg_match('/^[a-z0-9._-]{2,60}$/', $login)) {
            throw Problem::invalid('A sign-in name has 2 to 60 small letters, digits, points or dashes.', 'login');
        }
        if (null !== $this->find($login)) {
            throw new Problem(409, \sprintf('The name %s is taken.', $login), 'login');
        }
        $user = new User($login, $name, $owner);
        $this->setPassword($user, $password);
        $this->entities->persist($user);
        $this->entities->flush();

        return $user;
    }

    public function find(string $login): ?User
    {
        return $this->entities->getRepository(User::class)->findOneBy(['login' => $login]);
    }

    public function changePassword(User $user, string $password): void
    {
        $this->setPassword($user, $password);
        $this->entities->flush();
    }

    private function setPassword(User $user, string $password): void
    {
        if (mb_strlen($password) < self::SHORTEST_PASSWORD) {
            throw Problem::invalid(\sprintf('A password has at least %d characters.', self::SHORTEST_PASSWORD), 'password');
        }
        if (\strlen($password) > self::LONGEST_PASSWORD) {
            throw Problem::invalid(\sprintf('A password has at most %s bytes.', number_format(self::LONGEST_PASSWORD)), 'password');
        }
        $user->changePassword($this->hasher->hashPassword($user, $password));
    }

    /** As long as checking a password takes, for a name that is none. */
    public function checkNobody(#[\SensitiveParameter] string $password): void
    {
        $nobody = new User('nobody', 'Nobody');
        $nobody->changePassword($this->cache->get('hash-of-nobody', fn (): string => $this->hasher->hashPassword($nobody, bin2hex(random_bytes(16)))));
        $this->hasher->isPasswordValid($nobody, \strlen($password) > self::LONGEST_PASSWORD ? '' : $password);
    }

    public function disable(User $user): void
    {
        $user->disable();
        $this->entities->flush();
    }

    /** A code for the first account, made once and kept until it is used; null when there is an owner. */
    public function setupCode(): ?string
    {
        if (!$this->isEmpty()) {
            return null;
        }
        $file = $this->codeFile();
        if (!is_file($file)) {
            file_put_contents($file, strtoupper(bin2hex(random_bytes(5))));
            chmod($file, 0600);
        }

        return (string) file_get_contents($file);
    }

    public function createOwner(SetupRequest $request): User
    {
        if (!$this->isEmpty()) {
            throw new Problem(409, 'There is an owner already. Ask them for an account.');
        }
        $this->limit('setup');
        $code = $this->setupCode();
        if (null === $code || !hash_equals($code, strtoupper(trim($request->code)))) {
            throw Problem::invalid('This is not the code that the server printed when it started.', 'code');
        }
        // Of two requests at once one finds an owner there.
        $user = $this->entities->getConnection()->transactional(function () use ($request): User {
            $this->store->alone('setup', 0);

            return $this->isEmpty() ? $this->add($request->login, $request->name, $request->password, true) : throw new Problem(409, 'There is an owner already. Ask them for an account.');
        });
        @unlink($this->codeFile());

        return $user;
    }

    public function acceptInvitation(SetupRequest $request): User
    {
        $code = Invitation::hash(trim($request->code));
        $invitation = $this->entities->getRepository(Invitation::class)->findOneBy(['codeHash' => $code]);
        if (null === $invitation || !$invitation->isOpen()) {
            // Who has the code is never kept waiting by those who guess.
            $this->limit('invitation');
            throw self::usedUp();
        }

        return $this->entities->getConnection()->transactional(function () use ($code, $request): User {
            // The first of several requests takes it; should its account be refused, the invitation is open again.
            if (1 !== $this->entities->getConnection()->executeStatement(
                'UPDATE account_invitation SET used = ? WHERE code_hash = ? AND used = ?',
                [true, $code, false],
                [ParameterType::BOOLEAN, ParameterType::STRING, ParameterType::BOOLEAN],
            )) {
                throw self::usedUp();
            }

            return $this->add($request->login, $request->name, $request->password);
        });
    }

    private static function usedUp(): Problem
    {
        return Problem::invalid('This invitation has been used or has run out. Ask for a new one.', 'code');
    }

    /** Guesses of one place are counted, so that nobody keeps others out. */
    private function limit(string $what): void
    {
        if (!$this->setupLimiter->create($what.' '.($this->requests->getMainRequest()?->getClientIp() ?? ''))->consume()->isAccepted()) {
            throw new Problem(429, 'Too many attempts. Wait a minute, then try again.');
        }
    }

    private function codeFile(): string
    {
        return $this->dataDirectory.'/setup.code';
    }
}
