<?php

declare(strict_types=1);

namespace App\Account;

use App\Http\Problem;
use App\Storage\Sealing;
use App\Storage\Store;
use Doctrine\ORM\EntityManagerInterface;

/** A second step of signing in, by choice: a code from an app, or one of ten codes for the day when the telephone is lost. */
final readonly class SecondFactor
{
    public const PURPOSE = 'second factor';
    private const CODES = 10;

    public function __construct(
        private EntityManagerInterface $entities,
        private Sealing $sealing,
        private Store $store,
        private Audit $audit,
    ) {
    }

    /** Draws a secret, which counts once a code of it was shown. */
    public function begin(User $user): SecondFactorView
    {
        if ($user->hasSecondFactor()) {
            throw new Problem(409, 'You sign in with a second step already. Switch it off first.');
        }
        $secret = OneTimeCode::secret();
        $user->keepSecondFactor(['secret' => $this->sealing->seal($secret, self::PURPOSE), 'on' => false, 'last' => 0, 'codes' => []]);
        $this->entities->flush();

        return new SecondFactorView($secret, OneTimeCode::link($secret, $user->login()), []);
    }

    /** Switches it on, and gives the codes for a lost telephone, which are shown this once. */
    public function confirm(User $user, string $code): SecondFactorView
    {
        $kept = $user->secondFactor() ?? throw new Problem(409, 'Begin with a secret first.');
        if ($user->hasSecondFactor()) {
            throw new Problem(409, 'It is on already.');
        }
        $step = OneTimeCode::check($this->secret($kept), $code, $this->store->now());
        if (null === $step) {
            throw Problem::invalid('This is not the code that the app shows now. Is the clock of the telephone right?', 'code');
        }
        $codes = array_map(static fn (): string => implode('-', str_split(bin2hex(random_bytes(5)), 5)), range(1, self::CODES));
        $user->keepSecondFactor(['on' => true, 'last' => $step, 'codes' => array_map(self::hash(...), $codes)] + $kept);
        $this->audit->note($user->login(), 'switched the second step of signing in on');
        $this->entities->flush();

        return new SecondFactorView('', '', $codes);
    }

    /** Whether the code opens: each opens once. */
    public function opens(User $user, string $code): bool
    {
        $kept = $user->secondFactor();
        if (null === $kept || true !== $kept['on']) {
            return true;
        }
        $step = OneTimeCode::check($this->secret($kept), $code, $this->store->now(), $kept['last']);
        $used = array_search(self::hash($code), $kept['codes'], true);
        if (null === $step && false === $used) {
            return false;
        }
        $user->keepSecondFactor(null !== $step ? ['last' => $step] + $kept : [
            'codes' => array_values(array_filter($kept['codes'], static fn (string $c): bool => $c !== self::hash($code))),
        ] + $kept);
        $this->entities->flush();

        return true;
    }

    public function end(User $user, string $by): void
    {
        $user->keepSecondFactor(null);
        $this->audit->note($by, \sprintf('switched the second step of signing in off for %s', $user->login()));
        $this->entities->flush();
    }

    /** @param array{secret: string, on: bool, last: int, codes: list<string>} $kept */
    private function secret(array $kept): string
    {
        return $this->sealing->open($kept['secret'], self::PURPOSE)
            ?? throw new Problem(409, 'Your second step was kept with another key. The owner of this installation switches it off.');
    }

    private static function hash(string $code): string
    {
        return hash('sha256', strtolower(trim($code)));
    }
}
