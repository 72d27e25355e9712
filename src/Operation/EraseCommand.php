<?php

declare(strict_types=1);

namespace App\Operation;

use App\Table\DataTable;
use Doctrine\ORM\EntityManagerInterface;
use Symfony\Component\Console\Attribute\AsCommand;
use Symfony\Component\Console\Command\Command;
use Symfony\Component\Console\Input\InputArgument;
use Symfony\Component\Console\Input\InputInterface;
use Symfony\Component\Console\Input\InputOption;
use Symfony\Component\Console\Output\OutputInterface;

/** Erases one person's records. */
#[AsCommand('dokimos:erase', 'Erase what is known of one person, by the value of a key')]
final class EraseCommand extends Command
{
    public function __construct(private readonly Erasing $erasing, private readonly EntityManagerInterface $entities)
    {
        parent::__construct();
    }

    protected function configure(): void
    {
        $this->addArgument('column', InputArgument::REQUIRED, 'The column that tells persons apart, such as household_id')
            ->addArgument('value', InputArgument::REQUIRED, 'Its value for this person')
            ->addOption('yes', null, InputOption::VALUE_NONE, 'Do it; without it is only said what would be done');
    }

    protected function execute(InputInterface $input, OutputInterface $output): int
    {
        [$column, $value] = [$input->getArgument('column'), $input->getArgument('value')];
        if (!\is_string($column) || !\is_string($value) || '' === $value) {
            $output->writeln('Name a column and a value.');

            return 2;
        }
        $found = $this->erasing->found($column, $value);
        if ([] === $found) {
            $output->writeln(\sprintf('No table has a record whose %s is %s.', $column, $value));

            return 1;
        }
        if (true !== $input->getOption('yes')) {
            foreach ($found as $id => $rows) {
                $output->writeln(\sprintf('%s: %d.', $this->entities->find(DataTable::class, $id)?->name() ?? '', \count($rows)));
            }
            $output->writeln('Nothing was erased. Say --yes to do it; it cannot be taken back.');

            return 0;
        }
        foreach ($this->erasing->erase($column, $value, $found, 'command line') as $line) {
            $output->writeln($line);
        }

        return 0;
    }
}
