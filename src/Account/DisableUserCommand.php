<?php

declare(strict_types=1);

namespace App\Account;

use Symfony\Component\Console\Attribute\AsCommand;
use Symfony\Component\Console\Input\InputArgument;
use Symfony\Component\Console\Input\InputInterface;

/** Keep an account from signing in. */
#[AsCommand('dokimos:user:disable', 'Keep an account from signing in')]
final class DisableUserCommand extends UserCommand
{
    protected function configure(): void
    {
        $this->addArgument('login', InputArgument::REQUIRED);
    }

    protected function act(InputInterface $input): string
    {
        $this->accounts->disable($this->user(self::argument($input, 'login')));

        return 'The account is disabled.';
    }
}
