<?php

declare(strict_types=1);

namespace App\Operation;

use Symfony\Component\Console\Attribute\AsCommand;
use Symfony\Component\Console\Command\Command;
use Symfony\Component\Console\Input\InputInterface;
use Symfony\Component\Console\Output\OutputInterface;

/** What the supervisor has done every hour. */
#[AsCommand('dokimos:housekeeping', 'Clear away what was never finished')]
final class HousekeepingCommand extends Command
{
    public function __construct(private readonly Housekeeping $housekeeping)
    {
        parent::__construct();
    }

    protected function execute(InputInterface $input, OutputInterface $output): int
    {
        $output->writeln($this->housekeeping->run());

        return 0;
    }
}
