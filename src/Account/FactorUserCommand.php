<?php

declare(strict_types=1);

namespace App\Account;

use Symfony\Component\Console\Attribute\AsCommand;
use Symfony\Component\Console\Input\InputArgument;
use Symfony\Component\Console\Input\InputInterface;
use Symfony\Contracts\Service\Attribute\Required;

/** For the day when telephone and spare codes are lost. */
#[AsCommand('dokimos:user:factor-off', 'Switch the second step of signing in off for somebody')]
final class FactorUserCommand extends UserCommand
{
    private SecondFactor $factor;

    #[Required]
    public function useFactor(SecondFactor $factor): void
    {
        $this->factor = $factor;
    }

    protected function configure(): void
    {
        $this->addArgument('login', InputArgument::REQUIRED);
    }

    protected function act(InputInterface $input): string
    {
        $this->factor->end($this->user(self::argument($input, 'login')), 'command line');

        return 'They sign in with their password alone again.';
    }
}
