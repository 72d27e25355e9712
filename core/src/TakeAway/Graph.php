<?php

declare(strict_types=1);

namespace Dokimos\Core\TakeAway;

/** A graph of ONNX while it is put together; see the ONNX standard, onnx.proto3. */
final class Graph
{
    public const FLOAT = 1;
    public const INT64 = 7;
    public const STRING = 8;
    public const BOOL = 9;
    public const DOUBLE = 11;
    private const IR = 8;
    private const OPSET = 20;
    private const OPSET_ML = 3;
    private const ML = 'ai.onnx.ml';

    private int $made = 0;
    /** @var list<Protobuf> */
    private array $nodes = [];
    /** @var array<string, Protobuf> */
    private array $constants = [];
    /** @var array<string, string> */
    private array $known = [];
    /** @var list<Protobuf> */
    private array $inputs = [];
    /** @var list<Protobuf> */
    private array $outputs = [];

    public function input(string $name, int $type): void
    {
        $this->inputs[] = self::value($name, $type);
    }

    public function output(string $name, string $of): void
    {
        $this->nodes[] = $this->node('Identity', [$of], $name, [], '');
        $this->outputs[] = self::value($name, self::DOUBLE);
    }

    /** One column, as long as there are records. */
    private static function value(string $name, int $type): Protobuf
    {
        $shape = (new Protobuf())->message(1, (new Protobuf())->bytes(2, 'records'));
        $tensor = (new Protobuf())->whole(1, $type)->message(2, $shape);

        return (new Protobuf())->bytes(1, $name)->message(2, (new Protobuf())->message(1, $tensor));
    }

    /**
     * @param list<string>                                             $inputs
     * @param array<string, int|string|Doubles|list<int>|list<string>> $attributes
     *
     * @return string what comes out of it
     */
    public function add(string $type, array $inputs, array $attributes = [], bool $isMl = false): string
    {
        // The same asked twice is worked out once.
        $key = serialize([$type, $inputs, $attributes]);
        if (!isset($this->known[$key])) {
            $name = 'v'.++$this->made;
            $this->nodes[] = $this->node($type, $inputs, $name, $attributes, $isMl ? self::ML : '');
            $this->known[$key] = $name;
        }

        return $this->known[$key];
    }

    /**
     * @param list<string>                                             $inputs
     * @param array<string, int|string|Doubles|list<int>|list<string>> $attributes
     */
    private function node(string $type, array $inputs, string $output, array $attributes, string $domain): Protobuf
    {
        $node = new Protobuf();
        foreach ($inputs as $input) {
            $node->bytes(1, $input);
        }
        $node->bytes(2, $output)->bytes(4, $type);
        foreach ($attributes as $name => $value) {
            $own = (new Protobuf())->bytes(1, $name);
            match (true) {
                \is_int($value) => $own->whole(3, $value)->whole(20, 2),
                \is_string($value) => $own->bytes(4, $value)->whole(20, 3),
                $value instanceof Doubles => $own->message(5, self::tensor($name, self::DOUBLE, $value->values, true))->whole(20, 4),
                default => self::list($own, $value),
            };
            $node->message(5, $own);
        }

        return '' === $domain ? $node : $node->bytes(7, $domain);
    }

    /** @param list<int|string> $values whole numbers or texts */
    private static function list(Protobuf $to, array $values): void
    {
        $texts = array_filter($values, is_string(...));
        foreach ($texts as $text) {
            $to->bytes(9, $text);
        }
        if ([] === $texts) {
            $to->wholes(8, array_map(intval(...), $values));
        }
        $to->whole(20, [] === $texts ? 7 : 8);
    }

    /** @param list<float|int|string> $values */
    public function constant(int $type, array $values, bool $isList = false): string
    {
        $key = serialize([$type, $values, $isList]);
        if (!isset($this->known[$key])) {
            $name = 'c'.(\count($this->constants) + 1);
            $this->constants[$name] = self::tensor($name, $type, $values, $isList);
            $this->known[$key] = $name;
        }

        return $this->known[$key];
    }

    /** @param list<float|int|string> $values */
    private static function tensor(string $name, int $type, array $values, bool $isList): Protobuf
    {
        $tensor = new Protobuf();
        if ($isList) {
            $tensor->wholes(1, [\count($values)]);
        }
        $tensor->whole(2, $type);
        if (self::STRING === $type) {
            foreach ($values as $v) {
                $tensor->bytes(6, (string) $v);
            }
        }
        $tensor->bytes(8, $name);
        if (self::STRING !== $type) {
            $tensor->bytes(9, pack(self::DOUBLE === $type ? 'e*' : 'P*', ...$values));
        }

        return $tensor;
    }

    public function model(string $says): string
    {
        $graph = new Protobuf();
        foreach ($this->nodes as $node) {
            $graph->message(1, $node);
        }
        $graph->bytes(2, 'model');
        foreach ($this->constants as $constant) {
            $graph->message(5, $constant);
        }
        foreach ($this->inputs as $input) {
            $graph->message(11, $input);
        }
        foreach ($this->outputs as $output) {
            $graph->message(12, $output);
        }

        return (new Protobuf())->whole(1, self::IR)->bytes(2, 'Dokimos')->bytes(6, $says)->message(7, $graph)
            ->message(8, (new Protobuf())->bytes(1, '')->whole(2, self::OPSET))
            ->message(8, (new Protobuf())->bytes(1, self::ML)->whole(2, self::OPSET_ML))->written();
    }
}
