<?php

declare(strict_types=1);

namespace Dokimos\Core\TakeAway;

/** Asks an independent runtime what an ONNX model answers: tools/onnx/read.mjs, which runs under Node. */
final class OnnxReader
{
    /** @var ?resource */
    private $process;
    /** @var array<int, resource> */
    private array $pipes = [];

    /** @param string $folder of tools/onnx, with its packages */
    public function __construct(private readonly string $folder)
    {
    }

    public function isThere(): bool
    {
        return is_dir($this->folder.'/node_modules/onnxruntime-web');
    }

    /**
     * @param array<array-key, array{type: string, values: list<float|string|null>}> $inputs
     *
     * @return array<string, list<?float>> by answer
     *
     * @throws \RuntimeException with what the runtime says
     */
    public function answers(string $model, array $inputs): array
    {
        $file = tempnam(sys_get_temp_dir(), 'dokimos-onnx-');
        if (false === $file) {
            throw new \RuntimeException('There is no room for a temporary file.');
        }
        try {
            file_put_contents($file, $model);
            $this->begin();
            fwrite(
                $this->pipes[0],
                json_encode(['model' => $file, 'inputs' => (object) $inputs], \JSON_THROW_ON_ERROR | \JSON_PRESERVE_ZERO_FRACTION)."\n",
            );
            $line = fgets($this->pipes[1]);
        } finally {
            unlink($file);
        }
        $said = \is_string($line) ? json_decode($line, true) : null;
        if (!\is_array($said) || !isset($said['answers'])) {
            throw new \RuntimeException(
                'The ONNX runtime did not run the model: '.(\is_array($said) && \is_string($said['error'] ?? null)
                    ? $said['error']
                    : 'it said nothing.'),
            );
        }
        /** @var array<string, list<float|int|null>> $answers */
        $answers = $said['answers'];

        return array_map(
            static fn (array $own): array => array_map(static fn (float|int|null $v): ?float => null === $v ? null : (float) $v, $own),
            $answers,
        );
    }

    private function begin(): void
    {
        if (null !== $this->process) {
            return;
        }
        $process = proc_open(['node', 'read.mjs'], [['pipe', 'r'], ['pipe', 'w'], ['file', '/dev/null', 'w']], $this->pipes, $this->folder);
        $this->process = \is_resource($process) ? $process : throw new \RuntimeException('Node cannot be started.');
    }

    public function __destruct()
    {
        foreach ($this->pipes as $pipe) {
            fclose($pipe);
        }
        if (null !== $this->process) {
            proc_close($this->process);
        }
    }
}
