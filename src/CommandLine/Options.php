<?php

declare(strict_types=1);

namespace App\CommandLine;

use Dokimos\Core\Format\CsvFile;
use Dokimos\Core\Table\Kind;
use Dokimos\Core\Table\Table;
use Symfony\Component\Console\Input\InputInterface;

/** Reads options and files the same way in every command. */
final readonly class Options
{
    public function __construct(private InputInterface $input)
    {
    }

    public function text(string $name): ?string
    {
        $value = $this->input->hasArgument($name) ? $this->input->getArgument($name) : $this->input->getOption($name);

        return \is_string($value) && '' !== $value ? $value : null;
    }

    public function required(string $name): string
    {
        return $this->text($name) ?? throw new \InvalidArgumentException(\sprintf('--%s is needed.', $name));
    }

    public function is(string $name): bool
    {
        return true === $this->input->getOption($name);
    }

    /** @return list<string> of a comma-separated option */
    public function list(string $name): array
    {
        return array_values(array_filter(array_map(trim(...), explode(',', $this->text($name) ?? '')), static fn (string $s) => '' !== $s));
    }

    /** @return array<string, string> of a repeated name=value option */
    public function pairs(string $name): array
    {
        $pairs = [];
        $values = $this->input->getOption($name);
        foreach (\is_array($values) ? $values : [] as $pair) {
            $parts = \is_string($pair) ? explode('=', $pair, 2) : [];
            if (2 !== \count($parts)) {
                throw new \InvalidArgumentException(\sprintf('--%s takes name=value.', $name));
            }
            $pairs[$parts[0]] = $parts[1];
        }

        return $pairs;
    }

    /** @return array<string, Kind> from --kind column=kind */
    public function kinds(): array
    {
        return array_map(
            static fn (string $k) => Kind::tryFrom($k) ?? throw new \InvalidArgumentException(\sprintf(
                'There is no kind "%s"; choose one of %s.',
                $k,
                implode(', ', array_column(Kind::cases(), 'value')),
            )),
            $this->pairs('kind'),
        );
    }

    public function table(string $argument): Table
    {
        return (new CsvFile($this->required($argument)))->read($this->input->hasOption('kind') ? $this->kinds() : [])[0];
    }

    /** @return list<float> */
    public static function numbers(Table $table, string $name): array
    {
        if (!$table->has($name)) {
            throw new \InvalidArgumentException(\sprintf('There is no column "%s" in the file.', $name));
        }

        return $table->number($name)->values;
    }

    /**
     * Columns to use: those named, or all others but those left out.
     *
     * @return list<string>
     *
     * @throws \InvalidArgumentException when the file lacks one of them, or the target
     */
    public function inputs(Table $table, string $target, ?string $weight): array
    {
        $without = [$target, $weight, ...$this->list('without')];
        $inputs = $this->list('inputs');
        if ([] === $inputs) {
            $inputs = array_values(array_filter($table->names(), static fn (string $n): bool => !\in_array($n, $without, true)));
        }
        foreach ([$target, ...$inputs] as $name) {
            if (!$table->has($name)) {
                throw new \InvalidArgumentException(\sprintf('There is no column "%s" in the file.', $name));
            }
        }

        return $inputs;
    }

    /**
     * Steps of the file that --preparation names.
     *
     * @return list<array<string, mixed>>
     *
     * @throws \InvalidArgumentException when it holds none
     */
    public function steps(): array
    {
        if (null === $file = $this->text('preparation')) {
            return [];
        }
        $data = json_decode((string) @file_get_contents($file), true);
        if (!\is_array($data)) {
            throw new \InvalidArgumentException(\sprintf('%s is not a preparation in JSON.', $file));
        }
        /** @var list<array<string, mixed>> $steps */
        $steps = array_values(\is_array($data['steps'] ?? null) ? $data['steps'] : $data);

        return $steps;
    }
}
