<?php

declare(strict_types=1);

namespace App\Account;

use Symfony\Component\Console\Attribute\AsCommand;
use Symfony\Component\Console\Input\InputArgument;
use Symfony\Component\Console\Input\InputInterface;

/** Set a new password, read from standard input. */
#[AsCommand('dokimos:user:password', 'Set a new password, read from standard input')]
final class PasswordUserCommand extends UserCommand
{
    protected function configure(): void
    {
        $this->addArgument('login', InputArgument::REQUIRED);
    }

    protected function act(InputInterface $input): string
    {
        $this->accounts->changePassword($this->user(self::argument($input, 'login')), self::password());

        return 'The password is changed.';
    }
}
