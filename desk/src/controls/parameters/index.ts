// Which control a type of parameter has: a new type is one line here.
import type { Component } from 'vue'
import type { Parameter } from '../../api/api'
import CameraControl from './CameraControl.vue'
import ChoiceControl from './ChoiceControl.vue'
import ClipControl from './ClipControl.vue'
import CodeControl from './CodeControl.vue'
import ColourControl from './ColourControl.vue'
import LayerControl from './LayerControl.vue'
import NumberControl from './NumberControl.vue'
import PictureControl from './PictureControl.vue'
import PointsControl from './PointsControl.vue'
import RampControl from './RampControl.vue'
import ReferenceControl from './ReferenceControl.vue'
import SignalControl from './SignalControl.vue'
import StepsControl from './StepsControl.vue'
import TextControl from './TextControl.vue'
import ToggleControl from './ToggleControl.vue'

export const CONTROLS: Record<Parameter['type'], Component> = {
  number: NumberControl,
  colour: ColourControl,
  choice: ChoiceControl,
  toggle: ToggleControl,
  signal: SignalControl,
  layer: LayerControl,
  picture: PictureControl,
  clip: ClipControl,
  camera: CameraControl,
  ramp: RampControl,
  code: CodeControl,
  points: PointsControl,
  steps: StepsControl,
  words: TextControl,
  reference: ReferenceControl,
}
