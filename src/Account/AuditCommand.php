<?php

declare(strict_types=1);

namespace App\Account;

use Symfony\Component\Console\Attribute\AsCommand;
use Symfony\Component\Console\Command\Command;
use Symfony\Component\Console\Input\InputInterface;
use Symfony\Component\Console\Output\OutputInterface;

/** Reads what was done to the installation, and checks that nothing of it was changed. */
#[AsCommand('dokimos:audit', 'Print what was done to the installation, and check that none of it was changed')]
final class AuditCommand extends Command
{
    public function __construct(private readonly Audit $audit)
    {
        parent::__construct();
    }

    protected function execute(InputInterface $input, OutputInterface $output): int
    {
        foreach (array_reverse($this->audit->newest()) as $entry) {
            $output->writeln(\sprintf('%s  %-16s %-15s %s', $entry->at, $entry->who, $entry->address, $entry->what));
        }
        $broken = $this->audit->broken();
        $output->writeln(null === $broken
            ? 'Every entry is as it was written, and none between them is gone.'
            : \sprintf('Entry %d is not as it was written, or one before it is gone.', $broken));

        return null === $broken ? 0 : 1;
    }
}
