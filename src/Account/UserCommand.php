<?php

declare(strict_types=1);

namespace App\Account;

use App\Http\Problem;
use Symfony\Component\Console\Command\Command;
use Symfony\Component\Console\Input\InputInterface;
use Symfony\Component\Console\Output\OutputInterface;

/** What the account commands share: the password from standard input, errors in one line. */
abstract class UserCommand extends Command
{
    public function __construct(protected readonly Accounts $accounts, private readonly Audit $audit)
    {
        parent::__construct();
    }

    protected function execute(InputInterface $input, OutputInterface $output): int
    {
        try {
            $output->writeln($this->act($input));
            $login = $input->hasArgument('login') ? self::argument($input, 'login') : '';
            $this->audit->note('command line', trim(\sprintf('%s %s', (string) $this->getName(), $login)));

            return 0;
        } catch (Problem $e) {
            $output->writeln($e->getMessage());

            return 1;
        }
    }

    abstract protected function act(InputInterface $input): string;

    protected static function argument(InputInterface $input, string $name): string
    {
        $value = $input->getArgument($name);

        return \is_string($value) ? $value : '';
    }

    /** Never as an argument: those can be read by everybody on the machine. */
    protected static function password(): string
    {
        $line = fgets(\STDIN);

        return false === $line ? '' : rtrim($line, "\r\n");
    }

    protected function user(string $login): User
    {
        return $this->accounts->find($login) ?? throw Problem::notFound('account');
    }
}
