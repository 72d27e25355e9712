<?php

declare(strict_types=1);

namespace App\Account;

use Symfony\Component\Console\Attribute\AsCommand;
use Symfony\Component\Console\Input\InputArgument;
use Symfony\Component\Console\Input\InputInterface;

/** Add an account; the password is read from standard input. */
#[AsCommand('dokimos:user:add', 'Add an account; the password is read from standard input')]
final class AddUserCommand extends UserCommand
{
    protected function configure(): void
    {
        $this->addArgument('login', InputArgument::REQUIRED)->addArgument('name', InputArgument::REQUIRED, 'As colleagues read it');
    }

    protected function act(InputInterface $input): string
    {
        $user = $this->accounts->add(self::argument($input, 'login'), self::argument($input, 'name'), self::password());

        return \sprintf('%s can sign in.', $user->login());
    }
}
